// Package api is the contract of the service, openapi.yaml, and what is
// generated from it: the server interface, the client and their types.
package api

//go:generate go tool oapi-codegen -config server.cfg.yaml -o server.gen.go openapi.yaml

import _ "embed"

// Contract is the OpenAPI document, as served at /api/v1/openapi.yaml.
//
//go:embed openapi.yaml
var Contract []byte
