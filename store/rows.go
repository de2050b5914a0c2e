package store

import (
	"context"
	"database/sql"
	"encoding"
	"encoding/json"
	"fmt"
	"reflect"
	"strings"

	"levelstaff/core/lab"
)

// table keeps the records of one kind: a column for each JSON field, those of
// a nested struct with the struct's name before theirs, those of an embedded one
// as they are. An empty string or list, a zero count, no address and a nil pointer
// are NULL.
type table struct {
	name    string
	record  reflect.Type
	columns []column
	insert  string
	remove  string
}

type column struct {
	name string
	path []int // of fields; a nested struct is behind a pointer
}

// tables has the table of each kind of record.
var tables = func() map[lab.RecordKind]table {
	all := map[lab.RecordKind]table{}
	for _, k := range lab.Kinds() {
		all[k.RecordKind] = tableOf(k)
	}
	return all
}()

func tableOf(k lab.Kind) table {
	t := table{name: k.List, record: k.Type}
	t.columns = columnsOf(t.record, "", nil)
	var names, marks []string
	for _, c := range t.columns {
		names = append(names, c.name)
		marks = append(marks, "?")
	}
	t.insert = fmt.Sprintf("INSERT INTO %s (%s) VALUES (%s)", t.name, strings.Join(names, ", "), strings.Join(marks, ", "))
	t.remove = fmt.Sprintf("DELETE FROM %s WHERE id = ?", t.name)
	return t
}

func columnsOf(t reflect.Type, prefix string, path []int) []column {
	var columns []column
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		at := append(append([]int{}, path...), i)
		if f.Anonymous {
			columns = append(columns, columnsOf(f.Type, prefix, at)...)
			continue
		}
		if f.Type.Kind() == reflect.Pointer && f.Type.Elem().Kind() == reflect.Struct {
			columns = append(columns, columnsOf(f.Type.Elem(), prefix+name+"_", at)...)
			continue
		}
		columns = append(columns, column{`"` + prefix + name + `"`, at})
	}
	return columns
}

// change is the statement that makes a change to the table. Just the columns
// that differ are set, so that the indexes of the others are left alone.
func (t table) change(c lab.Change) statement {
	switch {
	case c.After == nil:
		return statement{t.remove, []any{c.Before.Key().ID}}
	case c.Before == nil:
		return statement{t.insert, t.row(c.After)}
	}
	before, after := t.row(c.Before), t.row(c.After)
	var sets []string
	var values []any
	for i, col := range t.columns {
		if before[i] != after[i] {
			sets = append(sets, col.name+" = ?")
			values = append(values, after[i])
		}
	}
	return statement{fmt.Sprintf("UPDATE %s SET %s WHERE id = ?", t.name, strings.Join(sets, ", ")), append(values, c.After.Key().ID)}
}

// row is a record's values, in the order of the columns.
func (t table) row(r lab.Record) []any {
	values := make([]any, len(t.columns))
	for i, c := range t.columns {
		values[i] = valueAt(reflect.ValueOf(r), c.path)
	}
	return values
}

func valueAt(v reflect.Value, path []int) any {
	for _, i := range path {
		if v.Kind() == reflect.Pointer {
			if v.IsNil() {
				return nil
			}
			v = v.Elem()
		}
		v = v.Field(i)
	}
	if v.IsZero() {
		return nil
	}
	if v.Kind() == reflect.Slice {
		data, err := json.Marshal(v.Interface())
		if err != nil {
			return err // which no column takes, so that the write says so
		}
		return string(data)
	}
	if said, ok := v.Interface().(encoding.TextMarshaler); ok {
		data, err := said.MarshalText()
		if err != nil {
			return err
		}
		return string(data)
	}
	return reflect.Indirect(v).Interface()
}

// all reads every record of the table, in the order of ids.
func (t table) all(ctx context.Context, db *sql.DB) ([]lab.Record, error) {
	var names []string
	for _, c := range t.columns {
		names = append(names, c.name)
	}
	rows, err := db.QueryContext(ctx, fmt.Sprintf("SELECT %s FROM %s ORDER BY id", strings.Join(names, ", "), t.name))
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var records []lab.Record
	for rows.Next() {
		record := reflect.New(t.record).Elem()
		into := make([]any, len(t.columns))
		for i, c := range t.columns {
			into[i] = scanInto(leaf(t.record, c.path))
		}
		if err := rows.Scan(into...); err != nil {
			return nil, fmt.Errorf("read %s: %w", t.name, err)
		}
		for i, c := range t.columns {
			v := reflect.ValueOf(into[i]).Elem()
			if v.IsNil() {
				continue
			}
			if is := leaf(t.record, c.path); isText(is) {
				text := v.Elem().String()
				v = reflect.New(is)
				if err := readText([]byte(text), v.Interface()); err != nil {
					return nil, fmt.Errorf("read %s, %s: %w", t.name, c.name, err)
				}
			}
			setAt(record, c.path, v)
		}
		records = append(records, record.Interface().(lab.Record))
	}
	return records, rows.Err()
}

// isText reports whether values of a type are kept as text: lists as JSON, and
// addresses as one writes them.
func isText(t reflect.Type) bool {
	return t.Kind() == reflect.Slice || reflect.PointerTo(t).Implements(reflect.TypeFor[encoding.TextUnmarshaler]())
}

func readText(text []byte, into any) error {
	if said, ok := into.(encoding.TextUnmarshaler); ok {
		return said.UnmarshalText(text)
	}
	return json.Unmarshal(text, into)
}

// scanInto is a pointer that is nil after NULL was read.
func scanInto(t reflect.Type) any {
	if isText(t) {
		return new(*string)
	}
	return reflect.New(reflect.PointerTo(t)).Interface()
}

// leaf is the type at a path, without its pointer.
func leaf(t reflect.Type, path []int) reflect.Type {
	for _, i := range path {
		if t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
		t = t.Field(i).Type
	}
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	return t
}

// setAt puts the value behind the pointer v at a path, making the nested
// structs on the way.
func setAt(into reflect.Value, path []int, v reflect.Value) {
	for _, i := range path {
		if into.Kind() == reflect.Pointer {
			if into.IsNil() {
				into.Set(reflect.New(into.Type().Elem()))
			}
			into = into.Elem()
		}
		into = into.Field(i)
	}
	if into.Kind() == reflect.Pointer {
		into.Set(v)
	} else {
		into.Set(v.Elem())
	}
}
