#!/bin/bash
# check.sh OUT: builds and tests both modules.
mvn -B -ntp -fae -Dstyle.color=never -DtrimStackTrace=true test >"$1/maven.log" 2>&1
cp pages/target/surefire-reports/TEST-example.pages.PagesTest.xml "$1/TEST-pages.xml" 2>/dev/null
true
