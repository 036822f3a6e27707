package read

import "unicausa/internal/core/symptom"

// Every reader has its row here. Lines are offered to the streams from the top: a format that
// cannot be mistaken stands before a general one, and those that go by shape, whatever the
// tool, stand last. Documents are tried from the top too.
var (
	streams   []stream
	documents []document
)

func init() { // the readers of nested output ask this table themselves
	streams = []stream{
		// what stands around a tool's output, and lines of JSON
		versionsReader, npmScriptsReader, goTestJSONReader, cargoJSONReader, rolesReader, columnsReader,

		// test runners
		goTestReader, pytestReader, unittestReader, cargoTestReader, tapReader, numberedReader, specTreeReader, ctestReader, xctestReader,

		// compilers, package managers and build tools
		goBuildReader, tscReader, npmReader, resolversReader, msbuildReader, mavenReader, rustcReader, dartReader, javacReader, kotlincReader,
		scalacReader, ghcReader, surefireReader, ocamlReader, gfortranReader, cmakeReader, gradleReader,

		// runtimes and frameworks
		jvmReader, phpReader, pythonReader, javaScriptReader, systemCheckReader, dotnetReader, rubyReader, elixirReader, nativeReader, browserLogReader,

		// forms that several tools share
		linkerReader, logLineReader, makeShellReader, stylishReader, gnuReader,

		// by shape
		verdictsReader, crashesReader, deprecatedReader, rowsReader,
	}
	for i := range streams {
		if streams[i].basis == "" {
			streams[i].basis = symptom.ByTool
		}
	}
	documents = []document{checkstyleDocument, gccJSONDocument, junitDocument, nunitDocument, sarifDocument, trxDocument}
	for i := range documents {
		documents[i].basis = symptom.ByTool
	}
	for _, d := range []document{rolesJSON, rolesXML()} { // by what their keys mean
		d.basis = symptom.ByKeys
		documents = append(documents, d)
	}
}
