#!/bin/bash
# check.sh OUT: checks the ledger's types and style.
mypy ledger >"$1/mypy.log" 2>&1
pylint --rcfile=pylintrc ledger >"$1/pylint.log" 2>&1
true
