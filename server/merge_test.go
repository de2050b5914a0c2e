package server

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

// The examples of RFC 7396, appendix A, whose patch is an object.
func TestMergePatch(t *testing.T) {
	for _, e := range []struct{ target, patch, is string }{
		{`{"a":"b"}`, `{"a":"c"}`, `{"a":"c"}`},
		{`{"a":"b"}`, `{"b":"c"}`, `{"a":"b","b":"c"}`},
		{`{"a":"b"}`, `{"a":null}`, `{}`},
		{`{"a":"b","b":"c"}`, `{"a":null}`, `{"b":"c"}`},
		{`{"a":["b"]}`, `{"a":"c"}`, `{"a":"c"}`},
		{`{"a":"c"}`, `{"a":["b"]}`, `{"a":["b"]}`},
		{`{"a":{"b":"c"}}`, `{"a":{"b":"d","c":null}}`, `{"a":{"b":"d"}}`},
		{`{"a":[{"b":"c"}]}`, `{"a":[1]}`, `{"a":[1]}`},
		{`{"e":null}`, `{"a":1}`, `{"e":null,"a":1}`},
		{`[1,2]`, `{"a":"b","c":null}`, `{"a":"b"}`},
		{`{}`, `{"a":{"bb":{"ccc":null}}}`, `{"a":{"bb":{}}}`},
	} {
		var target any
		var patch map[string]any
		require.NoError(t, json.Unmarshal([]byte(e.target), &target))
		require.NoError(t, json.Unmarshal([]byte(e.patch), &patch))
		is, err := json.Marshal(merge(target, patch))
		require.NoError(t, err)
		assert.JSONEq(t, e.is, string(is), "%s with %s", e.target, e.patch)
	}
}

func TestAMergedRecordKeepsItsNumbers(t *testing.T) {
	most := int64(9_007_199_254_740_993) // not a float64
	fields, err := fieldsOf(lab.Part{ID: "p", SizeBytes: &most})
	require.NoError(t, err)
	is, err := json.Marshal(merge(fields, map[string]any{"serial": "K7"}))
	require.NoError(t, err)
	assert.Contains(t, string(is), "9007199254740993")
}
