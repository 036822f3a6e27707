#!/bin/bash
# check.sh OUT: builds, vets and tests the press's book.
for p in ./desk ./gate ./caller ./kit ./kit/board ./front; do go build -gcflags=-e "$p"; done >"$1/build.log" 2>&1
go vet ./front >"$1/vet.log" 2>&1
go test -p 1 -v ./... >"$1/test.log" 2>&1
true
