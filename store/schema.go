package store

import (
	"cmp"
	"context"
	"database/sql"
	"fmt"
	"slices"
	"strings"
)

// A file's schema is code: a trigger runs with the next change, a view answers in
// a table's place. What is restored is therefore held against the schema that the
// migrations of its own version make, before anything but the schema is read.

// object is one entry of a file's schema.
type object struct {
	kind, name, sql string
}

// schemaOf lists what a file's schema has, by name. What SQLite keeps for itself,
// its own indexes and what ANALYZE counted, is left out.
func schemaOf(ctx context.Context, db *sql.DB) (map[string]object, error) {
	rows, err := db.QueryContext(ctx, "SELECT type, name, coalesce(sql, '') FROM sqlite_master")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	all := map[string]object{}
	for rows.Next() {
		var o object
		if err := rows.Scan(&o.kind, &o.name, &o.sql); err != nil {
			return nil, err
		}
		if o.kind == "table" && strings.HasPrefix(o.name, "sqlite_stat") || o.kind == "index" && strings.HasPrefix(o.name, "sqlite_autoindex_") {
			continue
		}
		o.sql = strings.Join(strings.Fields(o.sql), " ")
		if o.kind == "table" && strings.HasPrefix(strings.ToUpper(o.sql), "CREATE VIRTUAL") {
			o.kind = "virtual table"
		}
		all[o.name] = o
	}
	return all, rows.Err()
}

// otherwise names what is in a schema and should not be, and the other way round;
// "" where there is no such thing.
func otherwise(is, should map[string]object) string {
	var found []string
	for name, o := range is {
		want, ok := should[name]
		switch {
		case !ok:
			found = append(found, fmt.Sprintf("%s %q, which levelstaff did not make", o.kind, name))
		case o.kind != want.kind:
			found = append(found, fmt.Sprintf("%s %q, where there should be a %s", o.kind, name, want.kind))
		case o.sql != want.sql:
			found = append(found, fmt.Sprintf("%s %q that is not as levelstaff made it", o.kind, name))
		}
	}
	for name, o := range should {
		if _, ok := is[name]; !ok {
			found = append(found, fmt.Sprintf("no %s %q", o.kind, name))
		}
	}
	slices.SortFunc(found, func(a, b string) int { return cmp.Or(cmp.Compare(order(a), order(b)), cmp.Compare(a, b)) })
	if more := len(found) - mostFound; more > 0 {
		found = append(found[:mostFound], fmt.Sprintf("%d more differences", more))
	}
	return strings.Join(found, "; ")
}

// order puts what runs by itself before the rest.
func order(found string) int {
	return slices.IndexFunc([]string{"trigger", "view", "virtual", ""}, func(kind string) bool { return strings.HasPrefix(found, kind) })
}

// mostFound bounds how many differences one sentence has.
const mostFound = 5
