package triage

import (
	"strings"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/source"
)

// TestOrphans holds that a test which fails because the project's own edit took
// a key away is told so, with the file; a key that is still there is none.
func TestOrphans(t *testing.T) {
	tree := func(settings string) *source.Tree {
		made, err := source.NewTree(fstest.MapFS{
			"config/jar.php":     {Data: []byte("<?php\n\nreturn [\n" + settings + "];\n")},
			"src/Cellar.php":     {Data: []byte("<?php\n\nfinal class Cellar\n{\n    public static function damp(): float\n    {\n        return (float) Jar::setting('cellar_humidity');\n    }\n}\n")},
			"tests/JarTest.php":  {Data: []byte("<?php\n\nfinal class JarTest extends TestCase\n{\n    public function testDamp(): void\n    {\n        $this->assertSame(85.0, Cellar::damp());\n    }\n}\n")},
			"composer.lock":      {Data: []byte("{}\n")},
			"docs/unrelated.txt": {Data: []byte("cellar_humidity: 85\n")},
		})
		if err != nil {
			t.Fatal(err)
		}
		return made
	}
	const log = `<testsuite name="JarTest" tests="1" failures="1"><testcase name="testDamp" class="JarTest" classname="JarTest" file="tests/JarTest.php" line="5"><failure type="ExpectationFailed">JarTest::testDamp
Failed asserting that 0.0 is identical to 85.0.

tests/JarTest.php:7</failure></testcase></testsuite>`
	old := tree("    'cellar_humidity' => 85,\n")
	for _, test := range []struct {
		name, settings, want string
	}{
		{"a key that was grouped", "    'cellar' => [\n        'humidity' => 85,\n    ],\n", "config/jar.php has lost cellar_humidity since the baseline"},
		{"a key with another value", "    'cellar_humidity' => 80,\n", ""},
	} {
		after := fresh(t, "test.xml", log)
		after.Tree = tree(test.settings)
		r := Run(t.Context(), Case{Before: []Snapshot{{Tree: old}}, After: []Snapshot{after}})
		step := ""
		if len(r.Causes) > 0 && len(r.Causes[0].Steps) > 0 {
			step = r.Causes[0].Steps[0].Text
		}
		if told := strings.HasPrefix(step, test.want) && test.want != ""; told != (test.want != "") || (r.Symptoms[0].Orphan != nil) != (test.want != "") {
			t.Errorf("%s: the first step is %q, the orphan %+v", test.name, step, r.Symptoms[0].Orphan)
		}
	}
}
