#!/usr/bin/env bash
# record.sh [NAME…]: records outputs/ with real tools that no reader was written for, over small broken programs of a
# made-up orchard. Tools come from Debian, PyPI, npm, crates.io and Maven Central; one that is not on the PATH leaves its sample as it is.
set -uo pipefail
here=$(cd "$(dirname "$0")" && pwd)
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
export LC_ALL=C.UTF-8 TZ=UTC NO_COLOR=1
unset FORCE_COLOR
only=("$@")

file() { mkdir -p "$(dirname "$1")"; cat >"$1"; } # file NAME: from standard input

# sample NAME TOOL SETUP COMMAND…: runs the command where the function SETUP has made its files.
sample() {
    local name=$1 tool=$2 setup=$3
    shift 3
    [ ${#only[@]} -eq 0 ] || [[ " ${only[*]} " == *" $name "* ]] || return 0
    command -v "$tool" >/dev/null || { echo "no $tool: $name stays"; return 0; }
    rm -rf "$work/orchard" && mkdir -p "$work/orchard" && cd "$work/orchard" || return
    "$setup"
    "$@" >"$work/out" 2>&1 </dev/null
    sed -e "s#/private$work/orchard/##g" -e "s#$work/orchard/##g" -e "s#$work/orchard#/orchard#g" -e "s#$work##g" -e "s#[^ ]*/\.cache/#.cache/#g" -e "s#[^ ('\"]*/node_modules/#node_modules/#g" -e "s#[^ ('\"]*/site-packages/#site-packages/#g" -e "s#[^ ('\"]*/lib/python3#lib/python3#g" "$work/out" >"$here/outputs/$name"
    cd "$work" && echo "$name: $(wc -l <"$here/outputs/$name") lines"
}

# First ten.
python_files() {
    file weigh.py <<'PY'
import os
import subprocess
from payout import rate


def weigh(crates, unit):
    total = 0
    for c in crates:
        total += c.kilos()
    if total == None:
        return undefined_total
    return total.lower()


class scale:
    def Read(self):
        try:
            subprocess.call("scale " + self.port, shell=True)
        except:
            pass
        eval("1 + 1")
PY
    file payout.py <<'PY'
import hashlib


def rate(kilos: int) -> str:
    return kilos * 3


def digest(name):
    password = "orchard"
    return hashlib.md5(name.encode()).hexdigest()


rate("twelve")
PY
}
sample pylint.log pylint python_files pylint weigh.py payout.py
sample bandit.log bandit python_files bandit -q weigh.py payout.py
ruby_files() {
    file weigh.rb <<'RB'
class scale
end
RB
    file lib/payout.rb <<'RB'
require 'json'
class Payout
  def Rate(kilos, unit)
    total = kilos*3
    if kilos == nil then return 0 end
    puts "paid: #{kilos}" unless !kilos
    x = eval("1 + 1")
  end
end
RB
}
sample rubocop.log rubocop ruby_files rubocop --no-color --cache false weigh.rb lib
lua_files() {
    file src/weigh.lua <<'LUA'
local crates = {}
local spare = 1
function weigh(list, unit)
  for i, c in pairs(list) do
    total = total + c.kilos
  end
  local list = nil
  if unit then
  end
  return totl
end
LUA
    file src/broken.lua <<'LUA'
local x = = 3
LUA
    file src/fine.lua <<'LUA'
return { kilos = 12 }
LUA
    file spec/payout_spec.lua <<'LUA'
describe("payout", function()
  it("adds up", function() assert.are.equal(3, 1 + 1) end)
  it("returns an error when the list is empty", function() assert.is_true(true) end)
  it("reads a price", function() error("no price for pears") end)
  it("indexes", function() local t = nil; return t.x end)
  pending("prints a receipt")
end)
LUA
}
sample luacheck.log luacheck lua_files luacheck --no-color src
sample busted.log busted lua_files busted --output=plainTerminal spec
php_files() {
    file src/Payout.php <<'PHP'
<?php
class payout {
    var $rate = 3;
    function Weigh($kilos) {
        if ($kilos == NULL) { return 0; }
        $unused = 1;
      return $kilos * $this->rate;
    }
}
PHP
    file src/Scale.php <<'PHP'
<?php

namespace Orchard;

class Scale
{
    public function read( $port )
    {
        return file_get_contents($port);
    }
}
PHP
}
sample phpcs.log phpcs php_files phpcs --no-colors --standard=PSR12 src
js_files() {
    file weigh.js <<'JS'
var crates = []
function weigh(list) {
  if (list == null) return totl;
  for (var i = 0; i < list.length; i++) {
    kilos = list[i].kilos
  }
  eval("1 + 1");
  return kilos
  console.log("never");
}
var crates = 3;
JS
    file payout.js <<'JS'
function rate( {
  return 3;
}
JS
    file .jshintrc <<<'{"undef": true, "unused": true, "eqeqeq": true}'
    file README.md <<'MD'
# Orchard
## Weighing
#### Scales
* one
- two

Bare https://orchard.example/ here.	
```
no language
```
# Orchard
MD
}
sample jshint.log jshint js_files jshint weigh.js payout.js
sample markdownlint.log markdownlint js_files markdownlint README.md
c_files() {
    file src/scale.c <<'C'
#include <stdlib.h>
#include <string.h>
int weigh(int n)
{
    int kilos[3];
    char *name = malloc(8);
    strcpy(name, "a name that is too long");
    kilos[3] = n;
    if (n = 0)
        return *(int *)0;
    int unused = 3;
    return kilos[n];
}
C
}
sample cppcheck.log cppcheck c_files cppcheck --quiet --enable=all --suppress=missingIncludeSystem src
r_files() {
    file tests/testthat/test-payout.R <<'R'
library(testthat)
test_that("rates add up", {
  expect_equal(1 + 1, 3)
})
test_that("an error is returned for an empty list", {
  expect_true(TRUE)
})
test_that("prices are read", {
  stop("no price for pears")
})
test_that("it warns", {
  as.integer("twelve")
  expect_match("pear", "apple")
})
test_that("receipts print", {
  skip("no printer")
})
R
}
sample testthat.log Rscript r_files Rscript -e 'testthat::test_dir("tests/testthat", reporter = "check", stop_on_failure = TRUE)'

# Second ten.
sample mypy.log mypy python_files mypy --strict --no-color-output --pretty weigh.py payout.py
sample ruff.log ruff python_files ruff check --no-cache --select E,F,S,B,N weigh.py payout.py
yaml_files() {
    file orchard.yml <<'YML'
crates:
- kilos: 12
  kilos: 13
   - bad
rates: {pears: 3,apples: 4}
paid: yes
name: "a very long line that goes on and on until it is certainly longer than the eighty characters that are allowed here"
YML
    file fine.yml <<'YML'
---
crates: 12   
empty: 
YML
}
sample yamllint.log yamllint yaml_files yamllint orchard.yml fine.yml
perl_files() {
    file lib/Payout.pm <<'PL'
package Payout;
sub rate {
    my $kilos = shift;
    open(FH, "prices.txt");
    my @rows = <FH>;
    if ($kilos == 3) { return undef; }
    eval "1 + 1";
    return $kilos * 3
}
1;
PL
}
sample perlcritic.log perlcritic perl_files perlcritic --harsh lib
bundle_files() {
    file src/index.js <<'JS'
import pad from "left-out-package";
import { total, gone } from "./sums.js";
import "./missing.css";
export default pad(total(1, gone));
JS
    file src/sums.js <<'JS'
export const total = (a, b) => a + b;
JS
    file src/syntax.js <<'JS'
const x = ;
JS
    file webpack.config.js <<'JS'
module.exports = { mode: "production", entry: { main: "./src/index.js", syntax: "./src/syntax.js" }, performance: { hints: "warning", maxAssetSize: 10 } };
JS
    file package.json <<<'{"name": "orchard", "version": "1.0.0"}'
}
sample webpack.log webpack bundle_files webpack --no-color
ava_files() {
    file package.json <<<'{"name": "orchard", "type": "module"}'
    file test/payout.js <<'JS'
import test from "ava";
test("adds up", (t) => { t.is(1 + 1, 3); });
test("returns an error when the list is empty", (t) => { t.pass(); });
test("reads a price", () => { throw new TypeError("no price for pears"); });
test.skip("prints a receipt", (t) => { t.pass(); });
test("compares rows", (t) => { t.deepEqual({ id: 1, rows: ["pear"] }, { id: 1, rows: ["apple"] }); });
JS
    ln -s "$(dirname "$(dirname "$(dirname "$(readlink -f "$(command -v ava)")")")")" node_modules
}
sample ava.log ava ava_files ava
jasmine_files() {
    file spec/payout.spec.js <<'JS'
describe("payout", () => {
  it("adds up", () => { expect(1 + 1).toBe(3); });
  it("returns an error when the list is empty", () => { expect(true).toBe(true); });
  describe("of pears", () => {
    it("reads a price", () => { throw new TypeError("no price for pears"); });
    it("compares rows", () => { expect({ id: 1 }).toEqual({ id: 2 }); expect(3).toBeGreaterThan(4); });
  });
  xit("prints a receipt", () => {});
});
JS
}
sample jasmine.log jasmine jasmine_files jasmine --no-color --random=false "spec/**/*.spec.js"
html_files() {
    file page.html <<'HTML'
<html>
<head><title>Orchard</title>
<body>
<p>Weighing <b>crates</p>
<img src="crate.png">
<center>old</center>
<div id="a"></div><div id="a"></div>
<unknown>x</unknown>
</body>
HTML
}
sample tidy.log tidy html_files tidy -quiet -errors page.html
lintr_files() {
    file R/payout.R <<'R'
payOut = function(kilos, unit) {
  if (kilos == NULL) return(0)
  total <- kilos*3
  x <- T
  undefinedCall(total)
}
R
}
sample lintr.log Rscript lintr_files Rscript -e 'lintr::lint_dir("R")'
sql_files() {
    file payout.sql <<'SQL'
SELECT kilos, Rate*3 as total from weighings w
JOIN growers on w.grower=growers.id
where kilos>3
SQL
    file broken.sql <<'SQL'
SELECT FROM WHERE kilos;
SQL
}
sample sqlfluff.log sqlfluff sql_files sqlfluff lint --nocolor --dialect ansi payout.sql broken.sql

# Third ten.
sample rollup.log rollup bundle_files rollup src/index.js src/sums.js --dir out --format es
phpmd_files() {
    file src/Payout.php <<'PHP'
<?php
class Payout
{
    private $spare = 1;
    public function r($kilos, $unit)
    {
        $x = 1;
        if ($kilos) { return 1; } else { return eval('1;'); }
    }
    public static function goneStatic() { exit(1); }
}
PHP
}
sample phpmd.log phpmd phpmd_files phpmd src text cleancode,codesize,controversial,naming,unusedcode
verilog_files() {
    file scale.v <<'V'
module scale(input clk, input [7:0] kilos, output reg [3:0] total);
  wire spare;
  always @(posedge clk) begin
    total <= kilos;
    gone <= 1;
  end
  always @(*) case (kilos[1:0]) 2'b00: total = 1; endcase
endmodule
V
}
sample verilator.log verilator verilog_files verilator --lint-only -Wall scale.v
sample iverilog.log iverilog verilog_files iverilog -Wall -o out scale.v
behave_files() {
    file features/payout.feature <<'F'
Feature: payout
  Scenario: adds up
    Given 3 crates
    When they are weighed
    Then the total is 12
  Scenario: reads a price
    Given 3 crates
    When a price is read
  Scenario: prints
    Given a printer nobody knows
F
    file features/steps/steps.py <<'PY'
from behave import given, when, then

@given("{n:d} crates")
def crates(context, n):
    context.n = n

@when("they are weighed")
def weigh(context):
    context.total = context.n * 3

@then("the total is {n:d}")
def total(context, n):
    assert context.total == n, "total is %d" % context.total

@when("a price is read")
def price(context):
    int("4,50")
PY
}
sample behave.log behave behave_files behave --no-color --no-timings
racket_files() {
    file payout.rkt <<'R'
#lang racket/base
(define (price rows n) (vector-ref rows n))
(display "reading rows, 0 errors\n")
(price (vector 1 2) 7)
R
    file broken.rkt <<'R'
#lang racket/base
(define (total a b) (+ a undefined-rate))
R
}
racket_run() { racket payout.rkt; racket broken.rkt; }
sample racket.log racket racket_files racket_run
tcl_files() {
    file payout.tcl <<'T'
proc price {row} {
    return [expr {$row + $undefined}]
}
puts "reading rows, 0 errors"
price 4
T
}
sample tcl.log tclsh tcl_files tclsh payout.tcl
octave_files() {
    file payout.m <<'M'
function t = total(rows)
  t = rows * undefined_rate;
end
disp("reading rows, 0 errors");
warning("orchard:old", "the rows folder moves next year");
total([1 2 3]);
M
}
sample octave.log octave-cli octave_files octave-cli --no-gui --norc payout.m
rscript_files() {
    file payout.R <<'R'
price <- function(row) {
  if (is.na(as.integer(row))) stop("no price for ", row)
}
message("reading rows, 0 errors")
x <- as.integer("twelve")
warning("the rows folder moves next year")
price("pears")
R
}
sample rscript.log Rscript rscript_files Rscript payout.R
perlrun_files() {
    file payout.pl <<'P'
use strict; use warnings;
my %prices = (pears => 3);
print "reading rows, 0 errors\n";
my $total = 1 + $prices{apples};
my $n = "twelve" + 1;
warn "the rows folder moves next year\n";
sub price { die "no price for $_[0]" unless $prices{$_[0]} }
price("plums");
P
    file broken.pl <<'P'
use strict;
use Orchard::Gone;
P
    file syntax.pl <<'P'
use strict;
my $x = 3
my $y = $undeclared;
P
}
perl_run() { perl payout.pl; perl broken.pl; perl syntax.pl; }
sample perlrun.log perl perlrun_files perl_run

# Fourth ten.
sample vulture.log vulture python_files vulture weigh.py payout.py
cpp_files() {
    file src/scale.cc <<'C'
#include "scale.h"
#include <string>
using namespace std;
int Weigh( int n ){
  char* name = (char*)malloc(8);
  if(n==0) return -1;
  sprintf(name, "%d", n);   
  return n ;
}
C
    file src/scale.h <<'C'
int Weigh(int n);
C
}
sample cpplint.log cpplint cpp_files cpplint src/scale.cc src/scale.h
sample splint.log splint c_files splint src/scale.c
robot_files() {
    file payout.robot <<'R'
*** Settings ***
Documentation    Payout

*** Test Cases ***
Adds Up
    Should Be Equal As Integers    ${2}    ${3}

Returns An Error When The List Is Empty
    Log    fine

Reads A Price
    Convert To Integer    4,50

Uses A Keyword Nobody Knows
    Print The Receipt

Prints
    Skip    no printer
R
}
sample robot.log robot robot_files robot --consolecolors off --output NONE --report NONE --log NONE payout.robot
bats_files() {
    file payout.bats <<'B'
@test "adds up" {
  [ "$((1 + 1))" -eq 3 ]
}
@test "returns an error when the list is empty" {
  true
}
@test "reads a price" {
  run false
  [ "$status" -eq 0 ]
}
@test "prints" {
  skip "no printer"
}
B
}
sample bats.log bats bats_files bats --pretty payout.bats
d_files() {
    file source/scale.d <<'D'
module scale;
import std.stdio, std.gone;
deprecated("use mass") int weigh(int n) { return n; }
int total(int[] rows) {
    int spare;
    string s = rows.length;
    return weigh(undefinedRow);
}
D
    file source/crate.d <<'D'
module crate;
deprecated("use mass") int weigh(int n) { return n; }
int total(int[] rows) {
    string s = rows.length;
    return weigh(undefinedRow);
}
D
}
sample ldc.log ldc2 d_files ldc2 -c -vcolumns -w source/crate.d
sample biome.log biome js_files biome lint --colors=off weigh.js payout.js
sample rubocop.json rubocop ruby_files rubocop --format json --cache false weigh.rb lib
sample phpcs.xml phpcs php_files phpcs --report=xml --standard=PSR12 src
sample mypy.jsonl mypy python_files mypy --strict --output json weigh.py payout.py

# Fifth ten. TestNG wants its jars on CLASSPATH.
java_files() {
    file src/orchard/Payout.java <<'J'
package orchard;
import java.util.*;
public class Payout {
  static int Rate = 3;
  private String spare;
  public int weigh(List<Integer> rows, int unit) {
    int total = 0;
    for (int i = 0; i < rows.size(); i++) { total += rows.get(i); }
    try { total++; } catch (Exception e) { }
    if (total == 3) { } else return total;
    String name = null;
    return name.length();
  }
}
J
    file src/orchard/PayoutTest.java <<'J'
package orchard;
import org.testng.Assert;
import org.testng.annotations.Test;
public class PayoutTest {
  @Test public void addsUp() { Assert.assertEquals(1 + 1, 3, "rows add up"); }
  @Test public void returnsAnErrorWhenEmpty() { }
  @Test public void readsAPrice() { Integer.parseInt("4,50"); }
}
J
    file testng.xml <<'X'
<!DOCTYPE suite SYSTEM "https://testng.org/testng-1.0.dtd">
<suite name="orchard"><test name="payout"><classes><class name="orchard.PayoutTest"/></classes></test></suite>
X
}
testng_run() { mkdir -p out && javac -cp "$CLASSPATH" -d out src/orchard/*.java && java -cp "out:$CLASSPATH" org.testng.TestNG -verbose 2 -testclass orchard.PayoutTest; }
sample testng.log java java_files testng_run
go_files() {
    file go.mod <<<'module orchard.example/payout

go 1.21'
    file payout.go <<'G'
package payout

import (
	"fmt"
	"io/ioutil"
	"os"
	"strings"
)

type rows struct{ Id int }

func Weigh(r []int) (int, error) {
	var total int = 0
	for i, _ := range r {
		total = total + r[i]
	}
	os.Remove("x")
	ioutil.ReadFile("y")
	if strings.Index("a", "b") != -1 {
		fmt.Println("a")
	}
	return total, fmt.Errorf("No rows.")
	return 0, nil
}

func spare() {}
G
}
sample staticcheck.log staticcheck go_files staticcheck -checks all ./...
sample revive.log revive go_files revive ./...
sample errcheck.log errcheck go_files errcheck ./...
cucumber_files() {
    file features/payout.feature <<'F'
Feature: payout
  Scenario: adds up
    Given 3 crates
    Then the total is 12
  Scenario: is fine
    Given 3 crates
  Scenario: prints
    Given nobody knows
F
    file features/step_definitions/steps.rb <<'R'
Given(/^(\d+) crates$/) { |n| @n = n.to_i }
Then(/^the total is (\d+)$/) { |n| raise "total is #{@n * 3}" unless @n * 3 == n.to_i }
R
}
sample cucumber.log cucumber cucumber_files cucumber --no-color
ansible_files() {
    file play.yml <<'Y'
- hosts: all
  tasks:
    - shell: rm -rf /tmp/x
    - name: install
      apt: name=jar state=latest
      become: yes
    - copy: src=a dest=b mode=777
Y
}
sample ansible-lint.log ansible-lint ansible_files ansible-lint --nocolor --offline -q play.yml
cfn_files() {
    file stack.yml <<'Y'
Resources:
  Crate:
    Type: AWS::S3::Bucket
    Properties:
      BucketNam: crates
  Scale:
    Type: AWS::EC2::Instanc
Outputs:
  Out:
    Value: !Ref Gone
Y
}
sample cfn-lint.log cfn-lint cfn_files cfn-lint stack.yml
sample pyright.json pyright python_files pyright --outputjson weigh.py payout.py
yamale_files() {
    file schema.yaml <<'Y'
name: str()
crates: int(min=1)
rates: map(num())
Y
    file orchard.yaml <<'Y'
name: 12
crates: 0
rates:
  pears: three
spare: yes
Y
}
sample yamale.log yamale yamale_files yamale -s schema.yaml orchard.yaml
rust_files() {
    file Cargo.toml <<'R'
[package]
name = "orchard"
version = "0.1.0"
edition = "2021"
R
    file src/main.rs <<'R'
fn weigh(rows: &Vec<i32>) -> i32 {
    let mut total = 0;
    for i in 0..rows.len() { total += rows[i]; }
    return total;
}
fn spare() {}
fn main() { let n: String = weigh(&vec![1]); println!("{}", undefined_row); }
R
}
sample cargo-short.log cargo rust_files cargo check --quiet --message-format short

# Sixth ten.
boost_files() {
    file payout_test.cc <<'C'
#define BOOST_TEST_MODULE payout
#include <boost/test/included/unit_test.hpp>
#include <stdexcept>
#include <string>
int rate(const std::string &fruit) {
    if (fruit != "pears") throw std::out_of_range("no rate for " + fruit);
    return 3;
}
BOOST_AUTO_TEST_SUITE(rates)
BOOST_AUTO_TEST_CASE(pears_have_one) { BOOST_CHECK_EQUAL(rate("pears"), 4); }
BOOST_AUTO_TEST_CASE(error_is_returned) { BOOST_CHECK_THROW(rate("nuts"), std::out_of_range); }
BOOST_AUTO_TEST_CASE(apples_have_one) { BOOST_TEST(rate("apples") == 3); }
BOOST_AUTO_TEST_SUITE_END()
BOOST_AUTO_TEST_CASE(weights) {
    BOOST_REQUIRE(1 + 1 == 2);
    BOOST_WARN(1 > 2);
    BOOST_CHECK(3 > 4);
    BOOST_CHECK_CLOSE(1.0, 1.2, 1.0);
}
C
}
boost_run() { g++ -o payout payout_test.cc && ./payout; }
sample boost.log g++ boost_files boost_run
catch2_files() {
    file payout_test.cc <<'C'
#define CATCH_CONFIG_MAIN
#include <catch2/catch.hpp>
#include <stdexcept>
#include <string>
int rate(const std::string &fruit) {
    if (fruit != "pears") throw std::out_of_range("no rate for " + fruit);
    return 3;
}
TEST_CASE("pears have a rate", "[rates]") { REQUIRE(rate("pears") == 4); }
TEST_CASE("an error is returned for nuts", "[rates]") { REQUIRE_THROWS(rate("nuts")); }
TEST_CASE("payouts are made") {
    SECTION("of one crate") { CHECK(rate("pears") * 12 == 36); }
    SECTION("of apples") { CHECK(rate("apples") == 3); }
    SECTION("are printed") { CHECK_THAT("no receipt", Catch::Contains("total")); }
}
C
}
catch2_run() { g++ -o payout payout_test.cc && ./payout; }
sample catch2.log g++ catch2_files catch2_run
meson_files() {
    file meson.build <<'M'
project('orchard', 'c', version: '1.0', meson_version: '>=0.50')
payout = executable('payout', 'src/payout.c')
test('adds up', payout, args: ['12'])
test('returns an error', payout, args: ['0'])
test('reads a price', payout, args: ['nuts'])
scales = dependency('scales', version: '>=2', required: false)
run_target('pay', command: ['payout'], kwargs: {'gone': 1})
M
    file src/payout.c <<'C'
#include <stdio.h>
int main(int argc, char **argv)
{
    if (argv[1][0] == 'n') {
        fprintf(stderr, "no price for %s\n", argv[1]);
        return 1;
    }
    return 0;
}
C
}
meson_run() { meson setup build; sed -i '/run_target/d' meson.build; meson setup build >/dev/null; meson test -C build --print-errorlogs; }
sample meson.log meson meson_files meson_run
stylelint_files() {
    file style/page.css <<'C'
a { color: #FFFFFFF; colr: red; }
a { margin: 0px; margin: 1px }
.crateList {
  display: block;
  width: 10px;
}
@unknown x;
C
    file style/fine.css <<'C'
p {
  color: red;
}
C
    file style/broken.css <<'C'
.error {
  color: red;
C
    file .stylelintrc.json <<<'{"extends": "stylelint-config-standard"}'
    ln -s "$(dirname "$(dirname "$(dirname "$(readlink -f "$(command -v stylelint)")")")")" node_modules
}
sample stylelint.log stylelint stylelint_files stylelint --no-color "style/*.css"
hlint_files() {
    file src/Payout.hs <<'H'
module Payout where
import Data.List
import Data.Maybe

total rows = foldr (+) 0 (map kilos rows)
kilos row = if row == Nothing then 0 else fromJust row
names xs = concat (map show xs)
isEmpty xs = length xs == 0
H
    file src/Broken.hs <<'H'
module Broken where
f x = case x of
  (Just y
H
}
sample hlint.log hlint hlint_files hlint src
sass_files() {
    file style/page.scss <<'S'
@import "colours";
$width: 100px;
.crate {
  width: $width / 3;
  color: darken(#336699, 10%);
  &:hover { color: red; }
  margin: 1px;
}
.error { color: $gone; }
S
    file style/_colours.scss <<'S'
$green: #0a0;
S
    file style/broken.scss <<'S'
.warning {
  color: red
  margin 1px;
}
S
}
sass_run() { sass --no-color style/page.scss; sass --no-color style/broken.scss; }
sample sass.log sass sass_files sass_run
sphinx_files() {
    file conf.py <<'P'
project = "Orchard"
extensions = ["sphinx.ext.autodoc"]
html_theme_options = {"gone": True}
P
    file index.rst <<'R'
Orchard
===

.. toctree::

   payout
   missing

See :ref:`nowhere` and :doc:`gone`.

.. unknown-directive:: x

.. code-block:: nolang

   x
R
    file payout.rst <<'R'
Payout
------

* one
 two

An *open emphasis.

.. automodule:: orchard.gone
R
    file stray.rst <<'R'
Stray
=====
R
}
sample sphinx.log sphinx-build sphinx_files sphinx-build -q -N -b html . out
trial_files() {
    file test_payout.py <<'P'
from twisted.internet import defer, reactor
from twisted.trial import unittest


def rate(fruit):
    if fruit != "pears":
        raise KeyError(fruit)
    return 3


class RateTests(unittest.TestCase):
    def test_pears(self):
        self.assertEqual(rate("pears"), 4)

    def test_error_is_raised(self):
        self.assertRaises(KeyError, rate, "nuts")

    def test_apples(self):
        return defer.maybeDeferred(rate, "apples")

    def test_prints(self):
        raise unittest.SkipTest("no printer")

    def test_leaves_a_call(self):
        reactor.callLater(100, rate, "pears")
P
}
trial_run() { PYTHONPATH=. trial test_payout; }
sample trial.log trial trial_files trial_run
zig_files() {
    file src/payout.zig <<'Z'
const std = @import("std");
const gone = @import("gone.zig");

pub fn rate(fruit: []const u8) u32 {
    const spare = 3;
    var total: u32 = "twelve";
    return totl + fruit.weight;
}

test "pears have a rate" {
    try std.testing.expectEqual(@as(u32, 3), rate("pears"));
}
Z
    file src/sums.zig <<'Z'
const std = @import("std");
fn add(a: i32, b: i32) i32 {
    return a + b;
}
test "adds up" {
    try std.testing.expectEqual(@as(i32, 3), add(1, 1));
}
test "returns an error when the list is empty" {
    try std.testing.expect(add(0, 0) == 0);
}
test "reads a price" {
    return error.NoPriceForPears;
}
Z
}
zig_run() { export ZIG_GLOBAL_CACHE_DIR=$PWD/.cache; zig test src/payout.zig; zig test src/sums.zig; }
sample zig.log zig zig_files zig_run
vala_files() {
    file src/payout.vala <<'V'
class Payout : Object {
    private int spare = 3;
    public int rate (string fruit) {
        int total = "twelve";
        return totl + fruit.weight;
    }
    public void print () {
        foreach (var x in gone ()) { }
        GLib.Thread.create<void*> (() => { return null; }, true);
    }
}
int main () {
    return 0
}
V
    file src/fine.vala <<'V'
class Scale : Object {
    private int unused = 1;
    public int weigh (string s) {
        string unit = s;
        return 3;
    }
    public int tare () {
        Gone g = null;
        return weigh (3);
    }
}
V
}
vala_run() { valac -C src/payout.vala; valac -C src/fine.vala; }
sample vala.log valac vala_files vala_run

# Seventh ten.
java_files() {
    file src/Payout.java <<'J'
package orchard;
import java.util.*;
import java.io.File;

public class Payout {
  private int spare = 1;
  public static int Rate(String fruit) {
    if (fruit == "pears") return 3;
    try {
      return Integer.parseInt(fruit);
    } catch (Exception e) {
    }
    System.out.println("no rate");
    return 0;
  }
}
J
}
sample checkstyle.log checkstyle java_files checkstyle -c /sun_checks.xml src
sample pmd.log pmd java_files pmd check --no-cache --no-progress -d src -R rulesets/java/quickstart.xml
shunit2_files() {
    file payout_test.sh <<'S'
rate() { [ "$1" = pears ] && echo 3; }
testPearsHaveARate() { assertEquals 4 "$(rate pears)"; }
testErrorIsReturned() { assertFalse "nuts have none" "rate nuts"; }
testApplesHaveARate() { assertNotNull "apples have no rate" "$(rate apples)"; }
testPrints() { print_receipt; assertTrue 'a receipt is printed' $?; }
. shunit2
S
}
sample shunit2.log shunit2 shunit2_files sh payout_test.sh
criterion_files() {
    file payout_test.c <<'C'
#include <criterion/criterion.h>
#include <string.h>
static int rate(const char *fruit) { return strcmp(fruit, "pears") ? 0 : 3; }
Test(rates, pears_have_one) { cr_assert_eq(rate("pears"), 4); }
Test(rates, error_is_returned) { cr_expect(rate("nuts") == 0); }
Test(rates, apples_have_one) { cr_expect(rate("apples") == 3, "apples should have a rate"); cr_expect_str_eq("a", "b"); }
Test(payouts, crash) { int *p = 0; *p = 1; }
C
}
criterion_run() { gcc -o payout payout_test.c -lcriterion && ./payout --color=never; }
sample criterion.log gcc criterion_files criterion_run
doctest_files() {
    file payout_test.cc <<'C'
#define DOCTEST_CONFIG_IMPLEMENT_WITH_MAIN
#include <doctest/doctest.h>
#include <stdexcept>
#include <string>
int rate(const std::string &fruit) {
    if (fruit != "pears") throw std::out_of_range("no rate for " + fruit);
    return 3;
}
TEST_CASE("pears have a rate") { CHECK(rate("pears") == 4); }
TEST_CASE("an error is returned for nuts") { CHECK_THROWS(rate("nuts")); }
TEST_SUITE("payouts") {
    TEST_CASE("are made") {
        SUBCASE("of pears") { REQUIRE(rate("pears") * 12 == 36); }
        SUBCASE("of apples") { CHECK(rate("apples") == 3); }
    }
    TEST_CASE("warn") { WARN(rate("pears") == 2); MESSAGE("rates are old"); }
}
C
}
doctest_run() { g++ -o payout payout_test.cc && ./payout --no-colors; }
sample doctest.log g++ doctest_files doctest_run
oxlint_files() {
    file src/payout.js <<'J'
const spare = 1;
function rate(fruit) {
  if (fruit == null) return NaN === fruit;
  debugger;
  for (let i = 0; i < 10; i--) {}
  return { a: 1, a: 2 };
}
J
    file src/broken.js <<'J'
const x = ;
J
}
sample oxlint.log oxlint oxlint_files oxlint src
actionlint_files() {
    file .github/workflows/ci.yaml <<'Y'
on: push
jobs:
  test:
    runs-on: ubunto-latest
    steps:
      - uses: actions/checkout@v4
        with:
          depth: 1
      - run: echo ${{ matrix.fruit }}
      - rum: make test
Y
    git init -q
}
sample actionlint.log actionlint actionlint_files actionlint -no-color -shellcheck=
cobol_files() {
    file payout.cob <<'C'
       IDENTIFICATION DIVISION.
       PROGRAM-ID. PAYOUT.
       DATA DIVISION.
       WORKING-STORAGE SECTION.
       01 KILOS PIC 9(3).
       01 NAME PIC X(3) VALUE "PEARS".
       PROCEDURE DIVISION.
           MOVE "TWELVE" TO KILOS.
           ADD GONE TO KILOS.
           CALL MISSING.
           DISPLAY KILOS
           IF KILOS > 3
              GO TO NOWHERE.
           STOP RUN.
C
}
sample cobol.log cobc cobol_files cobc -Wall -x payout.cob
coffee_files() {
    file payout.coffee <<'C'
rate = (fruit) ->
  if fruit is "pears"
    3
   else
    throw new Error "no rate"
C
    file run.coffee <<'C'
prices = pears: 3
total = (rows) -> rows.map (r) -> prices[r].kilos.toFixed 2
console.log "reading rows, 0 errors"
total ["pears", "apples"]
C
}
coffee_run() { coffee -c payout.coffee; coffee run.coffee; }
sample coffee.log coffee coffee_files coffee_run
sample pydocstyle.log pydocstyle python_files pydocstyle weigh.py payout.py

# Eighth ten: runners and printers of languages that were seldom met.
testunit_files() {
    file test_payout.rb <<'R'
require "test/unit"
def rate(fruit) = fruit == "pears" ? 3 : raise(KeyError, "no rate for #{fruit}")
class RateTest < Test::Unit::TestCase
  def test_pears; assert_equal(4, rate("pears")); end
  def test_error_is_raised; assert_raise(KeyError) { rate("nuts") }; end
  def test_apples; rate("apples"); end
  def test_prints; omit("no printer"); end
  def test_names; assert_match(/total/, "no receipt", "a receipt has a total"); end
end
R
}
sample testunit.log ruby testunit_files ruby test_payout.rb --no-use-color --runner=console
rubyw_files() {
    file payout.rb <<'R'
def rate(fruit)
  unused = 1
  if fruit = "pears"
    3
  end
end
def rate(fruit) = 4
puts "reading rows, 0 errors"
rate("pears").gone
R
    file broken.rb <<'R'
class Payout
  def rate(
    3
end
R
}
rubyw_run() { ruby -w payout.rb; ruby -c broken.rb; }
sample rubyw.log ruby rubyw_files rubyw_run
luaunit_files() {
    file test_payout.lua <<'L'
local lu = require("luaunit")
local function rate(fruit)
  if fruit ~= "pears" then error("no rate for " .. fruit) end
  return 3
end
TestRate = {}
function TestRate:testPears() lu.assertEquals(rate("pears"), 4) end
function TestRate:testErrorIsRaised() lu.assertError(rate, "nuts") end
function TestRate:testApples() lu.assertEquals(rate("apples"), 3) end
function TestRate:testNames() lu.assertStrContains("no receipt", "total") end
os.exit(lu.LuaUnit.run())
L
}
sample luaunit.log lua luaunit_files lua test_payout.lua -v
lua_run_files() {
    file payout.lua <<'L'
local prices = { pears = 3 }
local function price(row) return prices[row].kilos end
print("reading rows, 0 errors")
price("apples")
L
    file broken.lua <<'L'
local x = 3 +
end
L
}
lua_run() { lua payout.lua; luac -p broken.lua; }
sample luarun.log lua lua_run_files lua_run
runit_files() {
    file tests/runit.payout.R <<'R'
rate <- function(fruit) if (fruit == "pears") 3 else stop("no rate for ", fruit)
test.pears <- function() checkEquals(rate("pears"), 4)
test.error.is.raised <- function() checkException(rate("nuts"), silent = TRUE)
test.apples <- function() checkEquals(rate("apples"), 3)
R
    file tests/test_payout.R <<'R'
rate <- function(fruit) if (fruit == "pears") 3 else stop("no rate for ", fruit)
expect_equal(rate("pears"), 4)
expect_error(rate("nuts"))
expect_true(rate("pears") > 5, info = "rates rise")
R
}
runit_run() { Rscript -e 'library(RUnit); printTextProtocol(runTestSuite(defineTestSuite("payout", "tests", testFileRegexp = "^runit.+R$")), showDetails = TRUE)'; }
sample runit.log Rscript runit_files runit_run
sample tinytest.log Rscript runit_files Rscript -e 'print(tinytest::run_test_file("tests/test_payout.R", color = FALSE, verbose = 0), passes = FALSE)'
gdc_files() {
    file source/payout.d <<'D'
module payout;
import std.stdio, orchard.gone;
int rate(string fruit) {
    int total = "twelve";
    return totl + fruit.weight;
}
deprecated("use quantize") void round() {}
void main() { round(); int unused; return 3; }
D
}
sample gdc.log gdc gdc_files gdc -c source/payout.d
perlclass_files() {
    file t/payout.t <<'P'
package PayoutTest;
use base 'Test::Class';
use Test::More;
sub rate { $_[0] eq 'pears' ? 3 : die "no rate for $_[0]\n" }
sub pears : Test { is(rate('pears'), 4, 'pears have a rate') }
sub error_is_raised : Test { ok(!eval { rate('nuts') }, 'an error is raised') }
sub apples : Test(2) { is(rate('apples'), 3); is_deeply({ kilos => 1 }, { kilos => 2 }, 'rows') }
PayoutTest->runtests;
P
}
perlclass_run() { perl t/payout.t; }
sample perlclass.log perl perlclass_files perlclass_run
phprun_files() {
    file payout.php <<'P'
<?php
declare(strict_types=1);
interface Scale { public function weigh(int $crates): float; }
function rate(string $fruit): int {
    trigger_error("rates move next year", E_USER_DEPRECATED);
    $prices = ["pears" => 3];
    return $prices[$fruit];
}
echo "reading rows, 0 errors\n";
echo $undefined;
rate("apples");
P
    file broken.php <<'P'
<?php
class Payout implements Gone {
    public function rate(: int { return 3; }
}
P
}
phprun_run() { php -d display_errors=1 -d html_errors=0 -d error_reporting=-1 payout.php; php -l broken.php; }
sample phprun.log php phprun_files phprun_run
prettier_files() {
    file src/payout.js <<'J'
function rate( fruit ){return 3}
J
    file src/broken.js <<'J'
const x = ;
J
    file src/weigh.ts <<'J'
export const a = 1;
J
}
sample prettier.log prettier prettier_files prettier --check src
