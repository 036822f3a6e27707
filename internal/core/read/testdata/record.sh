#!/usr/bin/env bash
# record.sh [NAME…]: records the samples beside it with the real tools, of which Debian, npm, Go and Rust provide those
# named here; a tool that is not there leaves its sample as it is. Everything is about a made-up pantry of jars and lids.
set -uo pipefail
here=$(cd "$(dirname "$0")" && pwd)
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
export LC_ALL=C.UTF-8 TZ=UTC NO_COLOR=1 HOME=$work CARGO_HOME=${CARGO_HOME:-$HOME/.cargo} RUSTUP_HOME=${RUSTUP_HOME:-$HOME/.rustup}
unset FORCE_COLOR
only=("$@")

file() { mkdir -p "$(dirname "$1")"; cat >"$1"; } # file NAME: from standard input
wanted() { [ ${#only[@]} -eq 0 ] || [[ " ${only[*]} " == *" $1 "* ]]; }

sample() { # sample NAME TOOL COMMAND…: in a folder of its own, made by the function make_NAME
    local name=$1 tool=$2
    shift 2
    wanted "$name" || return 0
    command -v "$tool" >/dev/null || { echo "no $tool: $name stays"; return 0; }
    mkdir -p "$work/pantry" && cd "$work/pantry" || return
    "make_${name//[-.]/_}"
    "$@" >"$work/out" 2>&1 </dev/null
    sed -e "s#$work/pantry/##g" -e "s#$work/pantry#/pantry#g" -e "s#$work##g" "$work/out" >"$here/$name.log"
    cd "$work" && rm -rf pantry
    echo "$name: $(wc -l <"$here/$name.log") lines"
}

# Compilers.
make_clang() {
    file jar.h <<<'__attribute__((deprecated("use jar_close"))) void jar_shut(int n);
struct jar { int lids; };'
    file shelf.cc <<<'#include "jar.h"
#include <string>
template <class T> T twice(T a) { return a * 2; }
int main() {
  struct jar j;
  jar_shut(1);
  j.lid = 3;
  open_lid(j);
  std::string s = twice(std::string("a"));
  return "x";
}'
}
sample clang clang clang++ -c shelf.cc
make_ld() { file shelf.c <<<'int open_lid(int); int main(void) { return open_lid(1) + shut_lid(2); }'; }
sample ld gcc gcc -w shelf.c -o shelf
make_lld() { make_ld; }
sample lld clang clang -w -fuse-ld=lld shelf.c -o shelf
make_gccjson() { make_ld; }
sample gccjson gcc gcc -Wall -fdiagnostics-format=json -c shelf.c
make_cargo() {
    file Cargo.toml <<<'[package]
name = "shelf"
version = "0.1.0"
edition = "2021"'
    file src/jar.rs <<<'pub struct Jar { pub lids: u32 }
impl Jar {
    #[deprecated(since = "5.0.0", note = "use close")]
    pub fn shut(&self) {}
    pub fn open(&self, n: u32) -> u32 { n }
}'
    file src/main.rs <<<'mod jar;
use jar::Lid;
use pickles::Gherkin;
fn main() {
    let j = jar::Jar { lids: 3 };
    j.shut();
    j.open_lid();
    j.open();
    let n: String = j.open(1);
    println!("{}", j.lid);
    label(n);
}'
}
sample cargo cargo cargo build --offline
make_cargojson() { make_cargo; }
sample cargojson cargo cargo build --offline --message-format=json
make_cargotest() {
    make_cargo
    rm src/main.rs
    file src/lib.rs <<<'pub mod jar;
#[cfg(test)]
mod tests {
    use super::jar::Jar;
    #[test] fn holds() { assert_eq!(Jar { lids: 2 }.open(2), 2); }
    #[test] fn opens() { assert_eq!(Jar { lids: 2 }.open(2), 3, "the error of a lid"); }
    #[test] fn sticks() { let n: Option<u32> = None; n.expect("no lid"); }
    #[test] #[ignore] fn later() {}
    #[test] fn error_is_a_word() { println!("error: only printed"); }
}'
}
sample cargotest cargo cargo test --offline
make_cargoresolve() {
    make_cargo
    sed -i '$a[dependencies]\njar = { path = "jar", version = "5" }' Cargo.toml
    file jar/Cargo.toml <<<'[package]
name = "jar"
version = "4.2.0"'
    file jar/src/lib.rs <<<''
}
sample cargoresolve cargo cargo build --offline
make_javac() {
    file src/pantry/Shelf.java <<<'package pantry;
import jars.Label;
import java.util.*;
public class Shelf {
    @Deprecated static void shut() {}
    static void open(String lid) {}
    public static void main(String[] a) {
        Jar jar = new Jar();
        open(3);
        open();
        "x".openLid();
        List raw = new ArrayList();
        raw.add("a");
        Date d = new Date(1, 2, 3);
        int n = "three";
    }
}'
}
sample javac javac javac -Xlint:all -d out src/pantry/Shelf.java
make_kotlinc() {
    file Shelf.kt <<<'@Deprecated("use close") fun shut() {}
fun main() {
    shut()
    openLid(3)
    val n: Int = "three"
    "x".lid()
}'
}
sample kotlinc kotlinc kotlinc Shelf.kt -d out.jar
make_scalac() {
    file Shelf.scala <<<'object Shelf {
  @deprecated("use close", "5.0") def shut(): Unit = ()
  def main(a: Array[String]): Unit = {
    shut()
    openLid(3)
    "x".lid
    val n: Int = "three"
  }
}'
}
sample scalac scalac scalac -deprecation Shelf.scala
make_ghc() {
    file Jar.hs <<<'module Jar where
{-# DEPRECATED shut "use close" #-}
shut :: Int -> Int
shut n = n'
    file Shelf.hs <<<'module Main where
import Jar (shut, openLid)
import Pickles
main :: IO ()
main = print (shut 3)'
    file Rack.hs <<<'module Main where
import Jar
main :: IO ()
main = do
  print (shut "three")
  print (openLid 3)'
}
ghc_both() { ghc -Wall Shelf.hs; ghc -Wall Rack.hs; }
sample ghc ghc ghc_both
make_ocaml() {
    file jar.ml <<<'let shut n = n [@@deprecated "use close"]'
    file shelf.ml <<<'let unused x = 1
let () = print_int (Jar.shut 3); Jar.open_lid 3'
    file rack.ml <<<'let n : int = "three"'
    file lid.ml <<<'let () = Pickles.crunch 3'
}
ocaml_all() { ocamlc -w +a -c jar.ml; ocamlc -w +a -c shelf.ml; ocamlc -c rack.ml; ocamlc -c lid.ml; ocamlc -c none.ml; }
sample ocaml ocamlc ocaml_all
make_gfortran() {
    file shelf.f90 <<<'program shelf
  use pickles
  implicit none
  integer :: n
  n = "three"
  call open_lid(jar)
end program'
    file rack.f90 <<<'program rack
  implicit none
  integer :: n, m
  n = lids + 1
  if (n .eq. 1) pause
end program'
}
gfortran_all() { gfortran -Wall -c shelf.f90; gfortran -Wall -c rack.f90; }
sample gfortran gfortran gfortran_all
make_elixir() {
    file lib/shelf.ex <<<'defmodule Jar do
  @deprecated "use close/1"
  def shut(n), do: n
end
defmodule Shelf do
  def open(n) do
    unused = 3
    Jar.shut(n)
    Jar.open_lid(n)
  end
end'
    file lib/rack.ex <<<'defmodule Rack do
  def open(n), do: lift(n)
end'
}
elixir_all() { elixirc lib/shelf.ex; elixirc lib/rack.ex; elixir -e 'defmodule A do def f(n), do: Lid.open(n) end; A.f(3)'; elixir -e 'raise "the lid is stuck"'; }
sample elixir elixirc elixir_all
make_erlc() {
    file shelf.erl <<<'-module(shelf).
-export([open/1, shut/1]).
open(N) -> lift(N), Unused = 3.
'
}
sample erlc erlc erlc shelf.erl
make_phplint() {
    file good.php <<<'<?php echo 1;'
    file bad.php <<<'<?php
function open( { return 1; }'
    file old.php <<<'<?php
function lid($days = 1, $age) { return $age; }'
}
phplint() { for f in *.php; do php -d display_errors=1 -d log_errors=0 -d error_reporting=-1 -l "$f"; done; php -d display_errors=1 -d log_errors=1 -d error_reporting=-1 -l bad.php; }
sample phplint php phplint
make_cmake() {
    file CMakeLists.txt <<<'cmake_minimum_required(VERSION 3.0)
project(shelf C)
message(DEPRECATION "shut_jar is deprecated, use close_jar")
message(WARNING "the lid is loose")
find_package(Jar 5 REQUIRED)
open_lid(shelf)'
}
sample cmake cmake cmake .
make_make() {
    file Makefile <<<'all: good jar.o
good:
	@echo error handling is fine
jar.o: jar.c
	$(CC) -c jar.c'
}
make_all() { make; printf 'all:\n\t@exit 3\n' >Makefile; make; printf 'all\n  nothing\n' >Makefile; make; sh -c 'open_lid 3'; bash -c 'open_lid 3'; }
sample make make make_all

# Runtimes.
make_python() {
    file shelf.py <<<'import warnings
def shut():
    warnings.warn("shut() is deprecated, use close()", DeprecationWarning, stacklevel=2)
def open_jar(n):
    try:
        return {}["lid"]
    except KeyError as e:
        raise ValueError("no lid for jar %d" % n) from e
shut()
print("an error is only a word here")
open_jar(3)'
    file rack.py <<<'from shelf2 import lid'
    file lid.py <<<'def open(
    return 3'
    file attr.py <<<'import math
class Jar: pass
def go():
    try:
        Jar().open_lid()
    except AttributeError:
        math.openlid(3)
go()'
}
python_all() { /usr/bin/python3 -W always shelf.py; /usr/bin/python3 rack.py; /usr/bin/python3 lid.py; /usr/bin/python3 attr.py; /usr/bin/python3 -m compileall -q lid.py; }
sample python python3 python_all
make_ruby() {
    file shelf.rb <<<'class Jar; end
def open_jar(j)
  unused = 3
  j.open_lid
end
open_jar(Jar.new)'
    file bad.rb <<<'def open(
  3'
    file load.rb <<<'require "pickles"'
    file name.rb <<<'warn "DEPRECATION WARNING: shut is deprecated (called from open at /pantry/name.rb:3)"
Lid.open'
}
ruby_all() { for f in shelf bad load name; do ruby -w $f.rb; done; }
sample ruby ruby ruby_all
make_node() {
    file shelf.js <<<'const jar = { open: (n) => n };
new Buffer(3);
function go() {
  jar.openLid();
}
go();'
    file missing.mjs <<<'import { lid } from "./jar.mjs";'
    file jar.mjs <<<'export const jar = 1;'
    file req.js <<<'require("pickles");'
    file reject.js <<<'process.emitWarning("the lid is loose");
Promise.reject(new TypeError("the lid is stuck"));'
    file syntax.js <<<'function open( {
  return 3;'
}
node_all() { for f in shelf.js missing.mjs req.js reject.js syntax.js; do node $f; done; }
sample node node node_all
make_php() {
    file src/Card.php <<<'<?php
class Card { function name($row) { return $row->fetchText(); } }'
    file run.php <<<'<?php
require "src/Card.php";
class Row {}
$label = new Row();
$label->name = "x";
strftime("%Y");
echo "care: ";
trigger_error("Jar is a stand-in", E_USER_DEPRECATED);
echo $undefined;
(new Card())->name(new Row());'
    file twice.php <<<'<?php
new Lid();'
}
php_all() { php -d display_errors=1 -d log_errors=0 -d error_reporting=-1 -d html_errors=0 run.php; php -d display_errors=1 -d log_errors=1 -d error_reporting=-1 twice.php; }
sample php php php_all
make_jvm() {
    file Shelf.java <<<'public class Shelf {
    static void open(int n) { throw new IllegalStateException("the lid is stuck"); }
    static void go() { try { open(3); } catch (IllegalStateException e) { throw new RuntimeException("no jar", e); } }
    public static void main(String[] a) throws Exception {
        try { Class.forName("jars.Lid"); } catch (Exception e) { e.printStackTrace(); }
        go();
    }
}'
}
sample jvm java java Shelf.java
make_native() {
    file shelf.cc <<<'#include <stdexcept>
int main() { throw std::runtime_error("the lid is stuck"); }'
    file assert.c <<<'#include <assert.h>
int main(void) { int lid = 0; assert(lid != 0); return 0; }'
    file sane.c <<<'#include <stdlib.h>
#include <limits.h>
int main(int c, char **v) { int n = INT_MAX; n += c; char *p = malloc(3); free(p); return p[1] + n; }'
    file panic.rs <<<'fn open(n: Option<u32>) -> u32 { n.unwrap() }
fn main() { open(None); }'
}
native_all() {
    g++ shelf.cc -o shelf && ./shelf
    gcc assert.c -o assert && ./assert
    gcc -w -g -fsanitize=address,undefined sane.c -o sane && ./sane
    rustc panic.rs && ./panic
    sh -c 'kill -SEGV $$'
}
sample native gcc native_all
make_gopanic() {
    file go.mod <<<'module example.org/shelf'
    file main.go <<<'package main

import "fmt"

func open(m map[string]int) { m["lid"] = 3 }

func main() {
	fmt.Println("FAIL is only a word here")
	open(nil)
}'
}
sample gopanic go go run .

# Test runners.
make_unittest() {
    file tests/__init__.py <<<''
    file tests/test_shelf.py <<<'import unittest
class ShelfTest(unittest.TestCase):
    def test_holds(self): self.assertEqual(1, 1)
    def test_opens(self): self.assertEqual(1, 2, "the lid")
    def test_sticks(self): {}["lid"]
    @unittest.skip("not yet")
    def test_later(self): pass
    def test_cases(self):
        for n in (1, 2):
            with self.subTest(n=n): self.assertEqual(n, 1)'
    file tests/test_lid.py <<<'import pickles'
}
sample unittest python3 /usr/bin/python3 -m unittest -v
make_pytest() {
    file tests/test_shelf.py <<<'import warnings, pytest
def helper(n): assert n == 1, "the lid"
def test_holds(): warnings.warn("shut() is deprecated", DeprecationWarning)
def test_opens(): assert [1, 2] == [1, 3]
def test_sticks(): {}["lid"]
@pytest.mark.parametrize("n", [1, 2])
def test_cases(n): helper(n)
class TestRack:
    def test_error_word(self): print("error: only printed")
    def test_attr(self): pytest.openlid()
@pytest.fixture
def jar(): raise RuntimeError("no jar")
def test_fixture(jar): pass
@pytest.mark.skip
def test_later(): pass
@pytest.mark.xfail
def test_todo(): assert 0'
    file tests/test_lid.py <<<'import pickles'
}
pytest_all() { pytest-3 -p no:cacheprovider --continue-on-collection-errors; pytest-3 -p no:cacheprovider -v --tb=short tests/test_shelf.py; }
sample pytest pytest-3 pytest_all
make_rspec() {
    file spec/shelf_spec.rb <<<'RSpec.describe "Shelf" do
  it("holds") { expect(1).to eq(1) }
  it("opens the lid") { expect(1).to eq(2) }
  it("sticks") { nil.open_lid }
  it("waits") { pending "later"; raise "no" }
  context "with a label" do
    it("says error") { expect("error").to include("lid") }
  end
end'
    file spec/lid_spec.rb <<<'require "pickles"'
}
rspec_all() { rspec --no-color spec/shelf_spec.rb; rspec --no-color; }
sample rspec rspec rspec_all
make_minitest() {
    file test/shelf_test.rb <<<'require "minitest/autorun"
class ShelfTest < Minitest::Test
  def test_holds = assert_equal(1, 1)
  def test_opens = assert_equal(2, 1)
  def test_sticks = nil.open_lid
  def test_later = skip("not yet")
end'
}
sample minitest ruby ruby test/shelf_test.rb --seed 1
make_phpunit() {
    file tests/ShelfTest.php <<<'<?php
use PHPUnit\Framework\TestCase;
class ShelfTest extends TestCase {
    function testHolds() { $this->assertSame(1, 1); }
    function testOpens() { $this->assertSame(2, 1); }
    function testSticks() { (new Lid())->open(); }
    function testLater() { $this->markTestSkipped("not yet"); }
    /** @dataProvider jars */
    function testJars($n) { $this->assertEquals(["a" => 1], ["a" => $n]); }
    function jars() { return [[1], [2]]; }
}'
}
sample phpunit phpunit phpunit --do-not-cache-result tests
make_exunit() {
    file shelf_test.exs <<<'ExUnit.start(seed: 0)
defmodule ShelfTest do
  use ExUnit.Case
  test "holds", do: assert 1 == 1
  test "opens the lid", do: assert 1 == 2
  test "sticks", do: raise "the lid is stuck"
  @tag :skip
  test "later", do: :ok
end'
}
sample exunit elixir elixir shelf_test.exs
make_prove() {
    file t/shelf.t <<<'use Test::More tests => 5;
ok(1, "holds");
is(1, 2, "opens the lid");
TODO: { local $TODO = "not yet"; ok(0, "hinges"); }
SKIP: { skip "no label", 1; ok(1); }
subtest "lids" => sub { plan tests => 2; ok(1, "is there"); ok(0, "fits") };'
}
prove_all() { prove -v t; perl t/shelf.t; }
sample prove prove prove_all
make_nodetest() {
    file shelf.test.mjs <<<'import test from "node:test";
import assert from "node:assert";
test("holds", () => {});
test("opens the lid", () => assert.strictEqual(1, 2));
test("shelf", async (t) => {
  await t.test("sticks", () => { throw new TypeError("the lid is stuck"); });
  await t.test("error is a word", () => console.log("error: only printed"));
});
test("later", { skip: true }, () => {});
test("hinges", { todo: true }, () => assert.ok(false));'
}
sample nodetest node node --test --test-reporter=spec
make_nodetap() { make_nodetest; }
sample nodetap node node --test --test-reporter=tap
make_nodejunit() { make_nodetest; }
sample nodejunit node node --test --test-reporter=junit
make_ctest() {
    file CMakeLists.txt <<<'cmake_minimum_required(VERSION 3.20)
project(shelf C)
enable_testing()
add_executable(shelf shelf.c)
add_test(NAME holds COMMAND shelf)
add_test(NAME opens_the_lid COMMAND shelf 1)
add_test(NAME nothing COMMAND none)'
    file shelf.c <<<'#include <stdio.h>
int main(int c, char **v) { if (c > 1) printf("error: the lid\n"); return c - 1; }'
    cmake . >/dev/null && make >/dev/null
}
sample ctest ctest ctest --output-on-failure
make_gtest() {
    file shelf.cc <<<'#include <gtest/gtest.h>
TEST(Shelf, Holds) { EXPECT_EQ(1, 1); }
TEST(Shelf, OpensTheLid) { EXPECT_EQ(1, 2) << "the lid"; }
TEST(Rack, Sticks) { throw std::runtime_error("stuck"); }'
    g++ shelf.cc -o shelf -lgtest -lgtest_main -pthread
}
sample gtest g++ ./shelf
js() { # js PACKAGE…: with packages from npm
    npm init -y >/dev/null 2>&1
    npm install --no-audit --no-fund --silent "$@" >/dev/null 2>&1
}
spec_file() {
    file "$1" <<<"$2"'describe("Shelf", () => {
  it("holds", () => {});
  it("opens the lid", () => { expect(1).toBe(2); });
  describe("rack", () => { it("sticks", () => { undefined.lid; }); });
  it.skip("later", () => {});
});'
}
make_mocha() {
    js mocha@11 chai@4
    file test/shelf.js <<<'const { expect } = require("chai");
describe("Shelf", () => {
  it("holds", () => {});
  it("opens the lid", () => { expect(1).to.equal(2); });
  describe("rack", () => { it("sticks", () => { undefined.lid; }); });
  it.skip("later", () => {});
  describe("cold", () => { before(() => { throw new Error("no ice"); }); it("freezes", () => {}); });
});'
}
sample mocha npm npx mocha
make_mochaassert() {
    js mocha@11
    file lib/jar.js <<<'const lids = (of) => {
  console.warn("jar takes no text any more. Please parse it first.");
  console.warn(new Error().stack);
  return NaN;
};
module.exports = { lids };'
    file test/shelf.js <<<'const assert = require("node:assert");
const { lids } = require("../lib/jar");
describe("Shelf", () => {
  it("counts lids", () => { assert.strictEqual(lids("3"), 3); });
  it("lists lids", () => { assert.deepStrictEqual([lids("3")], [3]); });
  it("refuses nothing", () => { assert.throws(() => 3, TypeError); });
});'
}
sample mochaassert npm npx mocha
make_jest() { js jest@29; spec_file test/shelf.test.js ''; file test/lid.test.js <<<'require("pickles");'; }
sample jest npm npx jest --ci
make_vitest() { js vitest@3; spec_file test/shelf.test.js 'import { describe, it, expect } from "vitest";
'; file test/lid.test.js <<<'import "pickles";'; }
sample vitest npm npx vitest run
make_eslint() {
    js eslint@8
    file .eslintrc.json <<<'{"root":true,"env":{"es2022":true,"node":true},"parserOptions":{"sourceType":"module"},"rules":{"prefer-const":"error","no-console":"warn","no-undef":"error"}}'
    file src/shelf.js <<<'let lid = 3;
console.log(lid);
openLid(3);'
    file src/bad.js <<<'function open( {'
}
sample eslint npm npx eslint src
make_npm() {
    file package.json <<<'{"name":"shelf","version":"1.0.0","dependencies":{"jar":"file:jar-5","lid":"file:lid-2"}}'
    file jar-5/package.json <<<'{"name":"jar","version":"5.0.0"}'
    file lid-2/package.json <<<'{"name":"lid","version":"2.1.0","peerDependencies":{"jar":"^4.0.0"}}'
}
npm_all() { npm install --offline --no-audit --no-fund --no-update-notifier --loglevel=warn; npm run open; }
sample npm npm npm_all
make_composer() {
    file composer.json <<<'{"name":"pantry/shelf","repositories":[{"type":"path","url":"packages/*"},{"packagist.org":false}],"require":{"jars/jar":"^5.0","jars/lid":"^2.0"}}'
    file packages/jar/composer.json <<<'{"name":"jars/jar","version":"5.0.0"}'
    file packages/lid/composer.json <<<'{"name":"jars/lid","version":"2.1.0","require":{"jars/jar":"^4.0"}}'
}
composer_all() { COMPOSER_ALLOW_SUPERUSER=1 composer update --no-ansi --no-progress --no-interaction; }
sample composer composer composer_all
make_maven() {
    file pom.xml <<<'<project xmlns="http://maven.apache.org/POM/4.0.0"><modelVersion>4.0.0</modelVersion><groupId>pantry</groupId><artifactId>shelf</artifactId><version>1</version>
<properties><maven.compiler.source>17</maven.compiler.source><maven.compiler.target>17</maven.compiler.target></properties></project>'
    file src/main/java/pantry/Shelf.java <<<'package pantry;
public class Shelf {
    void open(Jar jar) { "x".openLid(); new java.util.Date(1, 2, 3); }
}'
}
sample maven mvn mvn -o -B -Dstyle.color=never -Dmaven.repo.local=/usr/share/maven-repo -Dmaven.compiler.showDeprecation=true compile
