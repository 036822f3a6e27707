import { useCasebook } from "../api/queries";
import { Command, Skeleton, Trouble } from "../parts/basics";
import { Table } from "../parts/Table";

/** The causes that earlier upgrades settled. */
export function CasebookPage() {
  const book = useCasebook();
  if (book.error) return <Trouble error={book.error} retry={() => book.refetch()} />;
  if (!book.data) return <Skeleton rows={10} />;
  const { cases, templates = [] } = book.data;
  return (
    <>
      <title>Casebook · Unicausa</title>
      <div className="mb-4 flex flex-wrap items-baseline justify-between gap-x-6">
        <h1 className="text-lg font-semibold">Casebook</h1>
        <a href="/api/v1/casebook" download="casebook.json" className="text-copper underline underline-offset-2">
          Export, without private text
        </a>
      </div>
      {cases.length + templates.length === 0 ? (
        <div className="space-y-2 text-soft">
          <p>Empty so far: it grows with every cause that is settled, or with a file that another team handed on:</p>
          <Command text="unicausa casebook import casebook.json" />
        </div>
      ) : (
        <Table words={["cause", "settled by", "met in"]} numbers={["helped since"]} wide>
          {cases.map((c) => (
            <tr key={`${c.signature} ${c.decision}`} className="border-t border-line align-top">
              <td className="py-1.5 pr-4 [overflow-wrap:anywhere]">{c.title}</td>
              <td className="py-1.5 pr-4">
                <span className="font-semibold">{c.decision}</span>
                {c.reason && `: ${c.reason}`}
              </td>
              <td className="py-1.5 pr-4 text-xs text-soft">
                {c.package || "unknown package"} {c.from && `${c.from} → ${c.to}`}
                {c.upgrade && <span className="block">{`${c.upgrade} of ${c.project}`}</span>}
              </td>
              <td className="py-1.5 text-right">{c.helped || ""}</td>
            </tr>
          ))}
        </Table>
      )}
      {templates.length > 0 && (
        <section className="mt-6">
          <h2 className="mb-2 font-semibold">Edits that were learnt</h2>
          <Table words={["edit", "asked for by"]} numbers={[]} wide>
            {templates.map((t) => (
              <tr key={t.changeId} className="border-t border-line align-top">
                <td className="py-1.5 pr-4 font-mono text-xs [overflow-wrap:anywhere]">{t.shape}</td>
                <td className="py-1.5 pr-4">
                  {t.change}
                  <span className="block text-xs text-soft">{t.package}</span>
                </td>
              </tr>
            ))}
          </Table>
        </section>
      )}
    </>
  );
}
