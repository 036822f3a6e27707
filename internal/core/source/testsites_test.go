package source

import (
	"fmt"
	"testing"
	"testing/fstest"
)

// TestTestSites holds that tests are found by the names that runners print.
func TestTestSites(t *testing.T) {
	tree, err := NewTree(fstest.MapFS{
		"jar_test.go":       {Data: []byte("package jar\n\nfunc TestOpensLid(t *testing.T) {\n\tt.Skip(\"later\")\n}\n\nfunc TestShuts(t *testing.T) {\n\topens()\n}\n")},
		"spec/jar_spec.rb":  {Data: []byte("RSpec.describe \"The jar\" do\n  it \"keeps jam\" do\n  end\n  xit \"keeps wine\" do\n  end\n  # it \"keeps ink\" do\nend\n")},
		"test/JarTest.java": {Data: []byte("class JarTest {\n  @Disabled\n  @Test\n  void shuts() {}\n  @Test\n  void opens() {}\n}\n")},
		"test/LidTest.java": {Data: []byte("class LidTest {\n  @Test\n  void shuts() {}\n}\n")},
		"src/desk.js":       {Data: []byte("describe('the desk', () => {\n  it('weighs a jar', () => {\n    grade(jar);\n  });\n});\n")},
		"tests/test_jar.py": {Data: []byte("def test_full():\n    pass\n")},
		"lib/jar.rb":        {Data: []byte("def keeps_tea\nend\n")},
	})
	if err != nil {
		t.Fatal(err)
	}
	sites := tree.TestSites()
	for _, test := range []struct{ suite, name, want string }{
		{"example.org/jar", "TestOpensLid", "jar_test.go:3 off"},
		{"example.org/jar", "TestShuts/a_blue_one", "jar_test.go:7"},
		{"", "The jar keeps jam", "spec/jar_spec.rb:2"},
		{"", "The jar keeps wine", "spec/jar_spec.rb:4 off"},
		{"", "The jar keeps ink", ""},
		{"", "The jar keeps tea", ""},
		{"JarTest", "shuts", "test/JarTest.java:4 off"},
		{"org.example.LidTest", "shuts()", "test/LidTest.java:3"},
		{"LidTest", "opens", ""},
		{"", "the desk weighs a jar", "src/desk.js:2"},
		{"tests/test_jar.py", "test_full[3-4]", "tests/test_jar.py:1"},
		{"tests/test_lid.py", "test_full", ""},
	} {
		got := ""
		if s, ok := sites.Find(test.suite, test.name); ok {
			got = fmt.Sprintf("%s:%d", s.File, s.Line)
			if s.Off {
				got += " off"
			}
		}
		if got != test.want {
			t.Errorf("%s %s: found %q, want %q", test.suite, test.name, got, test.want)
		}
	}
	if _, ok := (*Tree)(nil).TestSites().Find("", "TestShuts"); ok {
		t.Error("a test is found without a tree")
	}
}
