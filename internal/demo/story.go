package demo

import "unicausa/internal/api"

// Packages of the made-up libraries.
const (
	steelyard = "orchardworks.example/steelyard"
	binlabel  = "@orchardworks/binlabel"
)

func fix(about, reason string) Act {
	return Act{About: about, Kind: api.NewDecisionKindFix, Reason: reason}
}

// Story is the two upgrades of Orchard Ledger: one to its end, one in the
// middle.
var Story = []Upgrade{
	{
		Folder: "steelyard-4", Name: "steelyard 4 and binlabel 3",
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
				fix("steelyard.Mass", "the units come from package mass"), fix("steelyard.Gram", "the units come from package mass"),
				fix("steelyard.Kilogram", "the units come from package mass"), fix("Scale.Weigh", "every caller passes a context"),
			}},
			{Folder: "04-compiles", Claims: []Act{
				fix("Scale.Weigh", "the gate and the station were forgotten"), fix("Reading.Kilos", "Net and Kilograms"),
				fix("IsStable", "Settled takes its place"), fix("Sum takes", "readings one by one"),
			}},
			{Folder: "05-front", Claims: []Act{
				fix("Bar codes", "imported from codes"), fix("Label.width", "read from size"), fix("Label.height", "read from size"),
				fix("Printing takes a job", "copies go into the job"), fix("LabelError", "the type is our own now"),
			}},
			{Folder: "06-samples", Claims: []Act{fix("widht", "a slip of the keyboard"), fix(" samples", "the watched scale asks for its three samples")},
				Decisions: []Act{
					{About: "ounding follows the trade", Kind: api.NewDecisionKindAccept, Reason: "the trade rounds halves to even, so does the co-operative from this season on"},
					{About: "{kg}", Kind: api.NewDecisionKindDefer, Reason: "the printed stock carries {kg} until autumn", Due: "steelyard 5.0.0"},
				}},
			{Folder: "07-rounding"},
		},
	},
	{
		Folder: "binlabel-4", Name: "binlabel 4",
		Moves: []api.Move{{Package: binlabel, From: "3.0.2", To: "4.0.0"}},
		Notes: []Document{{binlabel, "binlabel-4.md"}},
		Stages: []Stage{
			{Folder: "00-baseline"},
			{Folder: "01-bump", Decisions: []Act{{About: "Parameter 'printer'", Into: "listPrinters", Reason: "its type is lost with the name that is gone"}}},
			{Folder: "02-printers", Claims: []Act{fix("listPrinters", "the front waits for its printers")}},
		},
	},
}
