#!/usr/bin/env bash
# record.sh: records each runner over a suite of three tests, first as it passes, then with one test red. What it writes is committed beside it.
# It takes Debian 12's phpunit, rspec, minitest, elixir and cmake, Go, Rust, Python 3 and Node, and installs pytest, mocha, jest and vitest.
set -eu
here=$(cd "$(dirname "$0")" && pwd)
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
OLDHOME=$HOME
unset RUST_BACKTRACE || true
export LC_ALL=C.UTF-8 TZ=UTC NO_COLOR=1 CI=1 CARGO_TERM_COLOR=never HOME=$work

# runner NAME FILE COMMAND…: records the suite in the folder NAME of the work, as FILE, or as the file that the command leaves there.
runner() {
  local name=$1 file=$2 state
  mkdir -p "$here/$name"
  for state in green red; do
    cd "$work/${SUITE:-$name}"
    LID=$state "${@:3}" >"$work/out" 2>&1 </dev/null || true
    if [[ -f $file ]]; then mv "$file" "$work/out"; fi
    sed -e "s#$work/##g" -e 's#/[^ ]*/lib/python3#lib/python3#g' -e 's/ in [0-9.]*s/ in 0.01s/' -e 's/[0-9.]*ms/1ms/g' -e 's/([0-9.]*s)/(0.01s)/' -e 's/ \(clr-version\|os-version\|machine-name\|user\|cwd\|start-time\|end-time\)="[^"]*"/ \1=""/g' "$work/out" >"$here/$name/$state.${file##*.}"
  done
}

python3 -m venv "$work/venv"
"$work/venv/bin/pip" install -q pytest==8.3.4 pytest-nunit==1.0.7 >/dev/null 2>&1
export PATH=$work/venv/bin:$PATH PYTHONDONTWRITEBYTECODE=1
mkdir -p "$work/pytest" "$work/unittest/tests" "$work/phpunit" "$work/rspec/spec" "$work/minitest" "$work/node/test" "$work/mocha/test" "$work/go" "$work/cargo/src" "$work/ctest" "$work/exunit"

cat >"$work/pytest/test_jar.py" <<'PY'
import os


def test_opens():
    assert os.environ["LID"] == "green"


def test_shuts():
    assert True


def test_stands():
    assert True
PY
runner pytest out.log python -m pytest -p no:cacheprovider
SUITE=pytest runner pytest-quiet out.log python -m pytest -q -p no:cacheprovider
SUITE=pytest runner pytest-verbose out.log python -m pytest -v -p no:cacheprovider
SUITE=pytest runner junit-xml report.xml python -m pytest -q -p no:cacheprovider --junitxml=report.xml
SUITE=pytest runner nunit-xml report.xml python -m pytest -q -p no:cacheprovider --nunit-xml=report.xml

touch "$work/unittest/tests/__init__.py"
cat >"$work/unittest/tests/test_jar.py" <<'PY'
import os
import unittest


class Jar(unittest.TestCase):
    def test_opens(self):
        self.assertEqual(os.environ["LID"], "green")

    def test_shuts(self):
        pass

    def test_stands(self):
        pass
PY
runner unittest out.log python -m unittest

cat >"$work/phpunit/JarTest.php" <<'PHP'
<?php
final class JarTest extends PHPUnit\Framework\TestCase
{
    public function testOpens(): void { $this->assertSame('green', getenv('LID')); }
    public function testShuts(): void { $this->assertTrue(true); }
    public function testStands(): void { $this->assertTrue(true); }
}
PHP
runner phpunit out.log phpunit --do-not-cache-result JarTest.php

cat >"$work/rspec/spec/jar_spec.rb" <<'RB'
RSpec.describe "the jar" do
  it("opens") { expect(ENV["LID"]).to eq "green" }
  it("shuts") { expect(1).to eq 1 }
  it("stands") { expect(1).to eq 1 }
end
RB
runner rspec out.log rspec --no-color

cat >"$work/minitest/test_jar.rb" <<'RB'
require "minitest/autorun"

class TestJar < Minitest::Test
  def test_opens = assert_equal("green", ENV["LID"])
  def test_shuts = assert(true)
  def test_stands = assert(true)
end
RB
runner minitest out.log ruby test_jar.rb --seed 1

cat >"$work/exunit/jar_test.exs" <<'EX'
ExUnit.start(seed: 0, colors: [enabled: false])

defmodule JarTest do
  use ExUnit.Case
  test "opens", do: assert(System.get_env("LID") == "green")
  test "shuts", do: assert(true)
  test "stands", do: assert(true)
end
EX
runner exunit out.log elixir jar_test.exs

cat >"$work/node/test/jar.test.mjs" <<'JS'
import assert from 'node:assert/strict';
import { describe, it } from 'node:test';

describe('the jar', () => {
  it('opens', () => assert.equal(process.env.LID, 'green'));
  it('shuts', () => assert.ok(true));
  it('stands', () => assert.ok(true));
});
JS
runner node out.log node --test --test-reporter spec
SUITE=node runner tap out.tap node --test --test-reporter tap
SUITE=node runner node-dots out.log node --test --test-reporter dot

cat >"$work/mocha/package.json" <<'JSON'
{ "private": true, "devDependencies": { "mocha": "10.8.2", "jest": "29.7.0", "vitest": "2.1.5" }, "jest": { "testMatch": ["**/jest/*.js"] } }
JSON
(cd "$work/mocha" && npm install --silent --no-audit --no-fund >/dev/null 2>&1)
mkdir -p "$work/mocha/jest" "$work/mocha/vitest"
cat >"$work/mocha/test/jar.js" <<'JS'
const assert = require('node:assert/strict');

describe('the jar', () => {
  it('opens', () => assert.equal(process.env.LID, 'green'));
  it('shuts', () => assert.ok(true));
  it('stands', () => assert.ok(true));
});
JS
cp "$work/mocha/test/jar.js" "$work/mocha/jest/jar.js"
cat >"$work/mocha/vitest/jar.test.js" <<'JS'
import { describe, expect, it } from 'vitest';

describe('the jar', () => {
  it('opens', () => expect(process.env.LID).toBe('green'));
  it('shuts', () => expect(1).toBe(1));
  it('stands', () => expect(1).toBe(1));
});
JS
SUITE=mocha runner mocha-dots out.log node_modules/.bin/mocha --reporter dot
SUITE=mocha runner mocha out.log node_modules/.bin/mocha
SUITE=mocha runner jest out.log node_modules/.bin/jest --no-cache
SUITE=mocha runner vitest out.log node_modules/.bin/vitest run --dir vitest

cat >"$work/go/go.mod" <<'GO'
module example.org/jar

go 1.21
GO
cat >"$work/go/jar_test.go" <<'GO'
package jar

import (
	"os"
	"testing"
)

func TestOpens(t *testing.T) {
	if got := os.Getenv("LID"); got != "green" {
		t.Errorf("the lid is %s, want green", got)
	}
}

func TestShuts(t *testing.T) {}

func TestStands(t *testing.T) {}
GO
export GOPATH=$work/gopath GOCACHE=$work/gocache GOFLAGS=-mod=mod
runner go out.log go test -count=1 ./...
SUITE=go runner go-verbose out.log go test -count=1 -v ./...
SUITE=go runner go-json out.json go test -count=1 -json ./...

cat >"$work/cargo/Cargo.toml" <<'RS'
[package]
name = "jar"
version = "0.1.0"
edition = "2021"
RS
cat >"$work/cargo/src/lib.rs" <<'RS'
#[cfg(test)]
mod tests {
    #[test]
    fn opens() {
        assert_eq!(std::env::var("LID").unwrap(), "green");
    }

    #[test]
    fn shuts() {}

    #[test]
    fn stands() {}
}
RS
runner cargo out.log env HOME="$OLDHOME" cargo test -q
SUITE=cargo runner cargo-named out.log env HOME="$OLDHOME" cargo test

cat >"$work/ctest/CMakeLists.txt" <<'CM'
cmake_minimum_required(VERSION 3.18)
project(jar NONE)
enable_testing()
add_test(NAME opens COMMAND sh -c "test $LID = green")
add_test(NAME shuts COMMAND true)
add_test(NAME stands COMMAND true)
CM
(cd "$work/ctest" && cmake . >/dev/null)
runner ctest out.log ctest
