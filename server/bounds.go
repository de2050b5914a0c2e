package server

import (
	"reflect"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/gofiber/fiber/v3"
)

// withinBounds holds what was sent against the bounds that the OpenAPI document
// has from the same tags: maxLength, in characters, and maxItems. Records have
// none of their own here; they are checked where they go into a lab.
func withinBounds(sent any) error {
	return within(reflect.ValueOf(sent), "")
}

// within is withinBounds for a value that is part of what was sent.
func within(v reflect.Value, at string) error {
	switch v.Kind() {
	case reflect.Pointer:
		if v.IsNil() {
			return nil
		}
		return within(v.Elem(), at)
	case reflect.Slice:
		if !bounded(v.Type().Elem()) {
			return nil
		}
		for i := range v.Len() {
			if err := within(v.Index(i), at+"["+strconv.Itoa(i)+"]"); err != nil {
				return err
			}
		}
	case reflect.Struct:
		if !bounded(v.Type()) {
			return nil
		}
		for i := range v.NumField() {
			f := v.Type().Field(i)
			if f.Anonymous {
				if err := within(v.Field(i), at); err != nil {
					return err
				}
				continue
			}
			name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			if !f.IsExported() || name == "" {
				continue
			}
			if at != "" {
				name = at + "." + name
			}
			if err := fieldWithin(v.Field(i), f.Tag, name); err != nil {
				return err
			}
		}
	}
	return nil
}

func fieldWithin(v reflect.Value, tag reflect.StructTag, name string) error {
	if most, err := strconv.Atoi(tag.Get("maxLength")); err == nil && v.Kind() == reflect.String {
		if n := utf8.RuneCountInString(v.String()); n > most {
			return wrongField(fiber.StatusUnprocessableEntity, name, "%s is %d characters long; at most %d are allowed.", name, n, most)
		}
	}
	if most, err := strconv.Atoi(tag.Get("maxItems")); err == nil && v.Kind() == reflect.Slice && v.Len() > most {
		return wrongField(fiber.StatusUnprocessableEntity, name, "%s has %d entries; at most %d are allowed.", name, v.Len(), most)
	}
	return within(v, name)
}

// bounded reports whether values of a type can have bounds: the structs that
// this package takes in, and what leads to them.
func bounded(t reflect.Type) bool {
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	return t.Kind() == reflect.Struct && t.PkgPath() == reflect.TypeFor[Base]().PkgPath()
}
