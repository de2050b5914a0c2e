module levelstaff

go 1.26.0

require (
	github.com/agext/levenshtein v1.2.3
	github.com/hashicorp/go-immutable-radix/v2 v2.1.0
	github.com/stretchr/testify v1.12.1
	golang.org/x/text v0.43.0
)

require (
	github.com/BurntSushi/toml v1.4.1-0.20240526193622-a339e1f7089c // indirect
	github.com/hashicorp/golang-lru/v2 v2.0.7 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
	golang.org/x/exp v0.0.0-20261011100332-faecfb24eb49 // indirect
	golang.org/x/exp/typeparams v0.0.0-20231108232855-2478ac86f678 // indirect
	golang.org/x/mod v0.42.0 // indirect
	golang.org/x/sync v0.24.0 // indirect
	golang.org/x/tools v0.52.0 // indirect
	honnef.co/go/tools v0.8.2 // indirect
)

tool honnef.co/go/tools/cmd/staticcheck

ignore (
	./e2e/node_modules
	./web/node_modules
)
