package lab

import (
	"fmt"
	"reflect"
	"strings"
	"unicode"
)

// Two names that look alike on a screen are one name to a person. What does not
// show, or turns round what follows, is refused in every text. What does not show
// by itself but makes letters join (U+200C, U+200D), or picks how one is drawn,
// is kept, and left out where names are compared.

// refusedMarks are invisible characters that no script needs: spaces of no width,
// joiners and operators without a shape (U+2060 to U+2064), the byte order mark,
// line and paragraph separators, and tags.
var refusedMarks = &unicode.RangeTable{
	R16: []unicode.Range16{{Lo: 0x200b, Hi: 0x200b, Stride: 1}, {Lo: 0x2028, Hi: 0x2029, Stride: 1}, {Lo: 0x2060, Hi: 0x2064, Stride: 1},
		{Lo: 0x206a, Hi: 0x206f, Stride: 1}, {Lo: 0xfeff, Hi: 0xfeff, Stride: 1}},
	R32: []unicode.Range32{{Lo: 0xe0000, Hi: 0xe007f, Stride: 1}},
}

// hidden reports characters that would not show, or would turn the text that
// follows around.
func hidden(r rune) bool {
	if r == '\n' || r == '\t' {
		return false
	}
	return unicode.IsControl(r) || unicode.Is(unicode.Bidi_Control, r) || unicode.Is(refusedMarks, r)
}

// silent reports characters that are kept and do not show by themselves.
func silent(r rune) bool {
	return unicode.In(r, unicode.Cf, unicode.Variation_Selector, unicode.Other_Default_Ignorable_Code_Point)
}

// withoutSilent leaves them out.
func withoutSilent(name string) string {
	return strings.Map(func(r rune) rune {
		if silent(r) {
			return -1
		}
		return r
	}, name)
}

// Repair makes records of what earlier versions took and this one refuses: texts
// without characters that do not show, and another name for what is then called
// as something else is already. changes are those from the records as they are.
func Repair(records []Record) (changes []Change) {
	taken := map[string]bool{}
	for _, r := range records {
		is := reflect.New(reflect.TypeOf(r)).Elem()
		is.Set(visible(reflect.ValueOf(r)))
		for n := 2; collides(is, taken); n++ {
			renamed(is, n)
		}
		after, _ := is.Interface().(Record)
		for _, u := range uniquesOf(after) {
			if u.Value != "" {
				taken[string(u.key(after.Key().Kind))] = true
			}
		}
		if !Same(r, after) {
			changes = append(changes, Change{Before: r, After: after})
		}
	}
	return changes
}

// collides reports whether a record has a name of its own that another one has.
func collides(is reflect.Value, taken map[string]bool) bool {
	r, _ := is.Interface().(Record)
	for _, u := range uniquesOf(r) {
		if u.Field == "name" && u.Value != "" && taken[string(u.key(r.Key().Kind))] {
			return true
		}
	}
	return false
}

// renamed puts a number behind a record's name: "anvil 2", then "anvil 3".
func renamed(is reflect.Value, n int) {
	name := is.FieldByName("Name")
	base := strings.TrimSuffix(name.String(), fmt.Sprintf(" %d", n-1))
	name.SetString(fmt.Sprintf("%s %d", base, n))
}

// visible is a value with every text in it as it may be.
func visible(v reflect.Value) reflect.Value {
	is := reflect.New(v.Type()).Elem()
	is.Set(v)
	switch v.Kind() {
	case reflect.String:
		is.SetString(visibleText(v.String()))
	case reflect.Pointer:
		if !v.IsNil() {
			is.Set(reflect.New(v.Type().Elem()))
			is.Elem().Set(visible(v.Elem()))
		}
	case reflect.Slice:
		if !v.IsNil() {
			is.Set(reflect.MakeSlice(v.Type(), v.Len(), v.Len()))
			for i := range v.Len() {
				is.Index(i).Set(visible(v.Index(i)))
			}
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).IsExported() {
				is.Field(i).Set(visible(v.Field(i)))
			}
		}
	}
	return is
}

func visibleText(s string) string {
	if strings.IndexFunc(s, hidden) < 0 {
		return s
	}
	shown := strings.TrimSpace(strings.Map(func(r rune) rune {
		if hidden(r) {
			return -1
		}
		return r
	}, s))
	if shown == "" {
		return "unnamed"
	}
	return shown
}
