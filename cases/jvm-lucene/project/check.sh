#!/bin/bash
# check.sh OUT: builds and tests both modules.
mvn -B -ntp -fae -Dstyle.color=never -DtrimStackTrace=true test >"$1/maven.log" 2>&1
cp shelf/target/surefire-reports/TEST-example.shelf.ShelfTest.xml "$1/TEST-shelf.xml" 2>/dev/null
true
