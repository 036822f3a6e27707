#!/bin/bash
# check.sh OUT: builds and tests the till.
mvn -B -ntp -Dstyle.color=never -DtrimStackTrace=true test >"$1/maven.log" 2>&1
for t in Till Ledger; do cp target/surefire-reports/TEST-example.till.${t}Test.xml "$1/TEST-$t.xml" 2>/dev/null; done
true
