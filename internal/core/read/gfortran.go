package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// gfortran reads the GNU Fortran compiler; the message stands below the excerpt:
//
//	shelf.f90:12:9:
//
//	   12 |   call open_lid(jar)
//	      |         1
//	Error: Symbol ‘open_lid’ at (1) has no IMPLICIT type
//
// Format: gcc/fortran/error.cc.
var gfortranReader = dialectReader("gfortran", []string{".f90:", ".f:", ".f95:", ".f03:", ".f08:", ".for:"}, dialect{head: gfortranHead, tail: gfortranTail, ends: gfortranEnds})

func gfortranHead(text string) (symptom.Symptom, bool) {
	p, ok := placeColon(text)
	if !ok || !extension(strings.ToLower(p.file), ".f90", ".f", ".f95", ".f03", ".f08", ".for") || p.rest != ":" {
		return symptom.Symptom{}, false
	}
	return compileSymptom("gfortran", p, "error", ""), true
}

func gfortranTail(d *diagnostic, text string) bool {
	if d.Message != "" {
		return false
	}
	for _, word := range []string{"Fatal Error: ", "Error: ", "Warning: "} {
		if message, ok := strings.CutPrefix(text, word); ok {
			d.at = d.number
			d.Message, d.Code = splitFlag(message)
			if word == "Warning: " {
				d.Kind, d.Level = symptom.Warning, "warning"
			}
			return true
		}
	}
	return text == "" || strings.HasPrefix(text, " ")
}

func gfortranEnds(d *diagnostic, out *sink) bool {
	d.Refs = quotedRefs(d.Message)
	for i := range d.Refs {
		if strings.Contains(d.Message, "has no IMPLICIT type") || strings.Contains(d.Message, "is not a member of") {
			d.Refs[i].Role = symptom.Missing
			break
		}
	}
	if strings.Contains(d.Message, "Cannot open module file") {
		d.Kind, d.Phase = symptom.Resolve, symptom.PhaseResolve
		d.Refs = refs{ref(symptom.Module, strings.TrimSuffix(between(plainer.Replace(d.Message), "'", "'"), ".mod"))}
	}
	asDeprecation(&d.Symptom)
	return d.Message != ""
}
