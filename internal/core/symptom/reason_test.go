package symptom

import "testing"

// TestReason tells why a test is red: by the name that it missed, or by the class of the
// error, whatever that is called; not by a difference that the test itself found.
func TestReason(t *testing.T) {
	for message, want := range map[string]string{
		"TypeError: jar is not a function":                          "TypeError",
		"java.lang.IllegalStateException: the lid is open":          "IllegalStateException",
		"Jar::Nested: part \"front\" stands inside itself":          "Nested",
		"jar.Loose: the lid is loose":                               "Loose",
		"App\\Jar\\Stuck: it does not open":                         "Stuck",
		"AssertionError: assert 1 == 2":                             "",
		"org.opentest4j.AssertionFailedError: expected 1 but was 2": "",
		"expected Jar::Lid to be shut":                              "",
		"lid: got 1, want 2":                                        "",
		"":                                                          "",
	} {
		if got := (&Symptom{Test: "TestLid", Message: message}).Reason(); got != want {
			t.Errorf("%q is red for %q, want %q", message, got, want)
		}
	}
	if got := (&Symptom{Message: "TypeError: no test"}).Reason(); got != "" {
		t.Errorf("what is no test is red for %q", got)
	}
	missing := Symptom{Test: "TestLid", Message: "NoMethodError: undefined method", Refs: []Ref{{Role: Missing, Name: "Jar#open"}}}
	if got := missing.Reason(); got != "open" {
		t.Errorf("the name that it missed is %q", got)
	}
}
