// Package jsonkind says in words what a JSON value is, for messages about one
// that should have been something else.
package jsonkind

import "encoding/json"

// Of returns the kind of a value decoded with UseNumber: "a number".
func Of(v any) string {
	switch v.(type) {
	case nil:
		return "null"
	case bool:
		return "true or false"
	case json.Number:
		return "a number"
	case string:
		return "a text"
	case []any:
		return "a list"
	default:
		return "an object"
	}
}
