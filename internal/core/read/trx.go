package read

import (
	"io"
	"strings"

	"unicausa/internal/core/symptom"
)

// trx reads the results file of VSTest: TestRun with UnitTestResult elements.
// Format: the vstst.xsd schema of Visual Studio.
var trxDocument = xmlDocument(readTRX, "TestRun")

func readTRX(x *xmlScanner, out *sink) error {
	classes := map[string]string{} // test's ID to its class; definitions stand behind the results
	type result struct {
		s    symptom.Symptom
		id   string
		from int
		end  int
		what symptom.Outcome
	}
	var results []result
	definition := ""
	for {
		t, err := x.next()
		if err == io.EOF {
			break
		}
		if err != nil {
			return err
		}
		switch {
		case t.End:
		case t.Name == "UnitTest":
			definition = t.attr("id")
		case t.Name == "TestMethod":
			classes[definition] = before(t.attr("className"), ",")
		case t.Name == "UnitTestResult":
			r := result{id: t.attr("testId"), from: t.Line}
			r.s = symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "vstest", Test: t.attr("testName")}
			switch t.attr("outcome") {
			case "Passed", "PassedButRunAborted", "Warning":
				r.what = symptom.Passed
			case "Failed", "Error", "Timeout", "Aborted":
				r.what = symptom.Failed
			default:
				r.what = symptom.Skipped
			}
			if err := dotnetResult(x, &r.s, out); err != nil {
				return err
			}
			r.end = x.in.line
			results = append(results, r)
		}
	}
	for _, r := range results {
		r.s.Unit = classes[r.id]
		r.s.Test = strings.TrimPrefix(r.s.Test, r.s.Unit+".")
		out.testOutcome(symptom.Test{Suite: r.s.Unit, Name: r.s.Test, Outcome: r.what})
		if r.what == symptom.Failed {
			failure(&r.s, r.s.Detail)
			out.claim(r.from, r.end)
			out.add(r.s, r.from, r.end)
		}
	}
	return nil
}
