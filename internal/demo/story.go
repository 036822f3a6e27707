package demo

import "unicausa/internal/api"

// Packages of the made-up libraries.
const (
	steelyard = "orchardworks.example/steelyard"
	binlabel  = "@orchardworks/binlabel"
	ticket    = "orchardworks.example/ticket"
	millstone = "millstone"
	coldchain = "coldchain"
)

// The made-up projects.
const (
	ledger = "orchard-ledger"
	desk   = "orchard-desk"
	cellar = "orchard-cellar"
)

func fix(about, reason string) Act {
	return Act{About: about, Kind: api.NewDecisionKindFix, Reason: reason}
}

// Story is the upgrades of the co-operative: two to their ends, of which one
// goes in two legs, two in the middle, of which one is of a compiler with long
// notes, and one that has only just begun.
var Story = []Upgrade{
	{
		Folder: "ticket-2", Project: desk, Name: "ticket 2",
		Moves: []api.Move{{Package: ticket, From: "1.4.0", To: "1.9.0"}},
		Notes: []Document{{ticket, "ticket.md"}},
		Stages: []Stage{
			{Folder: "00-baseline", Decisions: []Act{{About: "backup", Word: "no data moves: tickets live for a day"}}},
			{Folder: "01-minor"},
			{Folder: "02-dial", Claims: []Act{fix("ticket.Open", "Dial goes on with a queue, as the wall wants it"), fix("TestFirst", "every test has a folder of its own")}},
			{Folder: "03-major", Next: []api.Move{{Package: ticket, From: "1.9.0", To: "2.0.0"}}},
			{Folder: "04-style", Claims: []Act{fix("Stamp", "plain, as it was")}},
			{Folder: "05-merge", Claims: []Act{fix("TestCall", "the wall leaves the zeros out")}, Decisions: []Act{{About: "three digits", Kind: api.NewDecisionKindAccept, Reason: "three digits read better from afar"}, {Debt: &api.NewDebt{
				Kind: "workaround", Text: "the old wall shows leading zeros as eights", Due: "2031-10-01", File: "counter/counter.go",
				Code: "\t// Workaround: the old wall shows leading zeros as eights.\n\treturn strings.TrimLeft(number, \"0\")",
			}}}},
			{Folder: "06-green", Claims: []Act{fix("Stamp", "the late shift too")}},
		},
	},
	{
		Folder: "steelyard-4", Project: ledger, Name: "steelyard 4 and binlabel 3",
		Moves: []api.Move{{Package: steelyard, From: "3.7.0", To: "4.1.0"}, {Package: binlabel, From: "2.4.1", To: "3.0.2"}},
		Notes: []Document{{steelyard, "steelyard.md"}, {binlabel, "binlabel-3.md"}},
		Stages: []Stage{
			{Folder: "00-baseline"},
			{Folder: "01-bump", Decisions: []Act{{About: "OpenScale"}, {About: "Options.Tare"}}},
			{Folder: "02-renames", Claims: []Act{
				fix("OpenScale", "renamed in every caller"), fix("Options.Tare", "renamed in every literal"),
				fix("renderLabel", "renamed in the front"), fix("paper", "the option is called stock now"),
			}},
			{Folder: "03-units", Claims: []Act{
				fix("steelyard.Mass", "the units come from package mass"), fix("Scale.Weigh", "every caller passes a context"),
			}},
			{Folder: "04-compiles", Claims: []Act{
				fix("Scale.Weigh", "the gate and the station were forgotten"), fix("Reading.Kilos", "Net and Kilograms"),
				fix("IsStable", "Settled takes its place"), fix("Sum takes", "readings one by one"),
			}},
			{Folder: "05-front", Claims: []Act{
				fix("Bar codes", "imported from codes"), fix("Label.width", "read from size"),
				fix("Printing takes a job", "copies go into the job"), fix("LabelError", "the type is our own now"),
			}},
			{Folder: "06-samples", Claims: []Act{fix("widht", "a slip of the keyboard"), fix(" samples", "the watched scale asks for its three samples")},
				Decisions: []Act{
					{About: "ounding", Kind: api.NewDecisionKindAccept, Reason: "the trade rounds halves to even, so does the co-operative from this season on"},
					{About: "{kg}", Kind: api.NewDecisionKindDefer, Reason: "the printed stock carries {kg} until autumn", Due: "steelyard 5.0.0"},
				}},
			{Folder: "07-rounding"},
		},
	},
	{
		Folder: "binlabel-4", Project: ledger, Name: "binlabel 4",
		Moves: []api.Move{{Package: binlabel, From: "3.0.2", To: "4.0.0"}},
		Notes: []Document{{binlabel, "binlabel-4.md"}},
		Stages: []Stage{
			{Folder: "00-baseline"},
			{Folder: "01-bump", Decisions: []Act{{About: "Parameter 'printer'", Into: "listPrinters", Reason: "its type is lost with the name that is gone"}}},
			{Folder: "02-printers", Claims: []Act{fix("listPrinters", "the front waits for its printers")}},
		},
	},
	{
		Folder: "millstone-8", Project: cellar, Name: "millstone 8 and coldchain 3",
		Moves: []api.Move{{Package: millstone, From: "7.4.0", To: "8.0.0"}, {Package: coldchain, From: "2.3.0", To: "3.0.0"}},
		Notes: []Document{{millstone, "millstone.md"}, {coldchain, "coldchain.md"}},
		Stages: []Stage{
			{Folder: "00-baseline"},
			{Folder: "01-bump"},
			{Folder: "02-option", Claims: []Act{fix("-fbrief-labels", "labels are always brief")}},
			{Folder: "03-declared"},
			{Folder: "04-linked", Decisions: []Act{{About: "coldchain_minutes is deprecated", Edit: &api.Example{From: "coldchain_minutes(p)", To: "coldchain_age(p) / 60"}}}},
		},
	},
	{
		Folder: "steelyard-5", Project: ledger, Name: "steelyard 5",
		Moves:  []api.Move{{Package: steelyard, From: "4.1.0", To: "5.0.0"}},
		Notes:  []Document{{steelyard, "steelyard-5.md"}},
		Stages: []Stage{{Folder: "00-baseline"}},
	},
}
