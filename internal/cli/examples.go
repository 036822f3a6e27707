package cli

import (
	"strings"

	"github.com/urfave/cli/v3"
)

// examples are calls of each command, by its full name, as they stand under its --help.
var examples = map[string][]string{
	"triage":          {"triage build.log", "triage --before old/build.log --notes example.org/jar=CHANGELOG.md --from 4.2.0 --repo . new/build.log new/test.json"},
	"serve":           {"serve", "serve --listen 0.0.0.0:7236 --tls-cert cert.pem --tls-key key.pem --host unicausa.example.org"},
	"begin":           {"begin", "begin --name \"jar 5\" --move example.org/jar=4.2.0..5.0.0 --checks"},
	"record":          {"record --all", "record --all --watch", "record --check build -- go build ./...", "record --check test --exit 1 --file report.xml"},
	"sign-in":         {"sign-in", "sign-in --server https://unicausa.example.org"},
	"people":          {"people"},
	"people add":      {"people add Ilse --role writer --project orchard-ledger"},
	"people remove":   {"people remove Ilse", "people remove Ilse --token-name laptop"},
	"backup":          {"backup unicausa.backup"},
	"restore":         {"restore unicausa.backup"},
	"prune":           {"prune --older-than 90"},
	"delete":          {"delete --upgrade 7"},
	"baseline":        {"baseline"},
	"notes":           {"notes --installed", "notes example.org/jar=CHANGELOG.md guides/UPGRADING.md", "notes --history example.org/jar=v4.2.0..v5.0.0 --repo ../jar"},
	"changes":         {"changes", "changes --silent", "changes --all --format json"},
	"change":          {"change CHANGELOG.md:12"},
	"mark":            {"mark CHANGELOG.md:12 --state later --reason \"with the next release\""},
	"unlisted":        {"unlisted --kind removed --package example.org/jar --version 5.0.0 --source https://example.org/issue/7 '`Jar.lid` is gone'"},
	"patch":           {"patch CHANGELOG.md:12 | git apply", "patch --from 'jar.OpenLid(x)' --to 'jar.Open(x, nil)'"},
	"review":          {"review", "review main..HEAD --format markdown"},
	"versions":        {"versions"},
	"ready":           {"ready", "ready --ask", "npm outdated --json | unicausa ready -"},
	"find":            {"find OpenLid", "find weighin/weighin.go"},
	"runs":            {"runs", "runs 7"},
	"retry":           {"retry 7"},
	"compare":         {"compare 3 7"},
	"tests":           {"tests", "tests --all"},
	"patterns":        {"patterns build.log"},
	"causes":          {"causes", "causes --why C3", "causes --format json"},
	"cause":           {"cause C3"},
	"confirm":         {"confirm C3", "confirm C3 2"},
	"reject":          {"reject C3 1"},
	"unjudge":         {"unjudge C3"},
	"decide":          {"decide C3 fix --reason \"renamed in every caller\"", "decide C5 wait --reason \"the plug-in is not ready\" --due \"lid 3.0.0\""},
	"gate":            {"gate", "gate --format junit > gate.xml"},
	"vouch":           {"vouch 2 --reason \"run by hand on the old scale\"", "vouch branch --reason \"main is frozen\""},
	"route":           {"route"},
	"route plan":      {"route plan --move jar=5.0.0..6.0.0"},
	"route next":      {"route next"},
	"route restart":   {"route restart --reason \"5.0.1 mends the worst\" --move jar=4.2.0..5.0.1"},
	"prepare":         {"prepare"},
	"checks":          {"checks"},
	"walk":            {"walk weigh a crate"},
	"commits":         {"commits"},
	"message":         {"message C3 | git commit -F - -e"},
	"ask":             {"ask C3", "ask C3 --upstream"},
	"debts":           {"debts"},
	"debts add":       {"debts add --reason \"the old lid stays\" --due \"jar 6.0.0\" --code shelf.go:12-14"},
	"debts pay":       {"debts pay 4 --how \"the shim is gone\""},
	"debts patch":     {"debts patch 4 | git apply"},
	"casebook":        {"casebook"},
	"casebook export": {"casebook export cases.json"},
	"casebook import": {"casebook import cases.json"},
	"report":          {"report pull-request", "report closing --format html > closing.html"},
	"activity":        {"activity --count 20"},
	"lsp":             {"lsp", "lsp --before old/build.log --notes jar=CHANGELOG.md --from 4.2.0 build.log"},
	"demo":            {"demo"},
	"man":             {"man | man -l -"},
	"move":            {"move C3 2 --to C5"},
	"split":           {"split C3 1 4", "split C3 --file 'shelf/*.go'"},
	"pin":             {"pin C3 2"},
	"merge":           {"merge C3 C5"},
	"corrections":     {"corrections"},
	"undo":            {"undo", "undo 4"},
}

// exemplify puts the examples under the description of a command and of those below it.
func exemplify(cmd *cli.Command, root string) {
	for _, c := range cmd.Commands {
		name := c.Name
		if cmd.Name != root {
			name = cmd.Name + " " + name
		}
		if list := examples[name]; len(list) > 0 {
			if c.Description != "" {
				c.Description += "\n\n"
			}
			c.Description += "Examples:\n"
			for _, e := range list {
				if !strings.Contains(e, root+" ") {
					e = root + " " + e
				}
				c.Description += "  " + e + "\n"
			}
		}
		exemplify(c, root)
	}
}
