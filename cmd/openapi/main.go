// Command openapi prints the API's OpenAPI document, from which the web
// pages' types are made.
package main

import (
	"fmt"
	"os"

	"levelstaff/server"
)

func main() {
	doc, err := server.OpenAPI("dev")
	if err != nil {
		fmt.Fprintln(os.Stderr, "openapi:", err)
		os.Exit(1)
	}
	fmt.Println(string(doc))
}
