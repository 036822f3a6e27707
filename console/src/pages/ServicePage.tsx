import { type FormEvent, useState } from "react";
import { type Role, useAddPerson, useDeeds, usePeople, usePrune, useRemovePerson } from "../api/access";
import { Command, CopyButton, Heading, Skeleton, Trouble } from "../parts/basics";
import { Table } from "../parts/Table";

/** The service itself, for those who keep it: people, storage, and what was done to it. */
export function ServicePage() {
  const people = usePeople();
  const deeds = useDeeds();
  const error = people.error ?? deeds.error;
  if (error) return <Trouble error={error} retry={() => people.refetch()} />;
  if (!people.data || !deeds.data) return <Skeleton rows={10} />;
  return (
    <>
      <title>The service · Unicausa</title>
      <h1 className="mb-6 text-lg font-semibold">The service</h1>
      <section className="mb-8">
        <Heading>People</Heading>
        <People people={people.data} />
        <AddPerson />
      </section>
      <section className="mb-8">
        <Heading>Records</Heading>
        <p className="mb-2">
          <a href="/api/v1/backup" className="text-copper underline underline-offset-2">
            Download a backup
          </a>
          <span className="text-soft">, or write one to a file, and put it back:</span>
        </p>
        <p className="mb-3 flex flex-wrap gap-2">
          <Command text="unicausa backup FILE" />
          <Command text="unicausa restore FILE --yes" />
        </p>
        <Prune />
      </section>
      <section>
        <Heading>What was done</Heading>
        {deeds.data.length === 0 ? (
          <p className="text-soft">Nothing yet: people, backups and deletions are recorded here.</p>
        ) : (
          <Table words={["when", "who", "what"]} numbers={[]} wide>
            {deeds.data.map((d) => (
              <tr key={`${d.at} ${d.text}`} className="border-t border-line align-top">
                <td className="whitespace-nowrap py-1 pr-4 font-mono text-xs text-soft">{moment(d.at)}</td>
                <td className="py-1 pr-4">{d.author}</td>
                <td className="py-1 [overflow-wrap:anywhere]">{d.text}</td>
              </tr>
            ))}
          </Table>
        )}
      </section>
    </>
  );
}

const moment = (at: string) => new Date(at).toISOString().slice(0, 16).replace("T", " ");

const button = "moves rounded border border-line px-2 py-0.5 text-sm hover:border-copper";
const field = "rounded border border-line bg-sheet px-2 py-0.5";

function People({ people }: { people: NonNullable<ReturnType<typeof usePeople>["data"]> }) {
  const remove = useRemovePerson();
  if (people.length === 0)
    return <p className="text-soft">Nobody but the user of the service's own machine, who may do everything.</p>;
  return (
    <Table words={["person", "role", "token", "act"]} numbers={[]} wide>
      {people.map((p) => (
        <tr key={p.name} className="border-t border-line align-top">
          <td className="py-1.5 pr-4 font-semibold">{p.name}</td>
          <td className="py-1.5 pr-4">
            {p.roles.map((r) => (
              <span key={r.project} className="block">
                {r.role} <span className="text-soft">of {r.project || "all projects"}</span>
              </span>
            ))}
          </td>
          <td className="py-1.5 pr-4">
            {p.tokens.map((t) => (
              <span key={t.name} className="block">
                {t.name}{" "}
                <span className="text-xs text-soft">
                  {t.usedAt ? `used ${moment(t.usedAt)}` : "never used"}
                  {t.endsAt && `, ends ${moment(t.endsAt)}`}
                </span>{" "}
                <button
                  type="button"
                  className="text-xs text-copper hover:underline"
                  onClick={() => remove.mutate({ name: p.name, token: t.name })}
                >
                  Revoke
                </button>
              </span>
            ))}
          </td>
          <td className="py-1.5 text-right">
            <button type="button" className={button} onClick={() => remove.mutate({ name: p.name })}>
              Remove
            </button>
          </td>
        </tr>
      ))}
    </Table>
  );
}

function AddPerson() {
  const [name, setName] = useState("");
  const [role, setRole] = useState<Role>("writer");
  const [project, setProject] = useState("");
  const [token, setToken] = useState("first");
  const add = useAddPerson();
  const submit = (e: FormEvent) => {
    e.preventDefault();
    add.mutate(
      { name, role, projects: project.trim() ? [project.trim()] : [], token },
      { onSuccess: () => setName("") },
    );
  };
  return (
    <form onSubmit={submit} className="mt-3" aria-label="Add a person">
      <div className="flex flex-wrap items-center gap-2">
        <input
          required
          value={name}
          onChange={(e) => setName(e.target.value)}
          placeholder="Name"
          aria-label="Name"
          className={field}
        />
        <select
          value={role}
          onChange={(e) => setRole(e.target.value as Role)}
          aria-label="Role"
          className={`${field} py-1`}
        >
          <option value="reader">reader</option>
          <option value="writer">writer</option>
          <option value="admin">admin</option>
        </select>
        <input
          value={project}
          onChange={(e) => setProject(e.target.value)}
          placeholder="Project, or all"
          aria-label="Project; empty for all"
          className={field}
        />
        <input
          required
          value={token}
          onChange={(e) => setToken(e.target.value)}
          placeholder="Token's name"
          aria-label="A name for the token"
          className={`${field} w-32`}
        />
        <button type="submit" disabled={add.isPending} className="rounded bg-copper px-3 py-0.5 text-paper">
          Add
        </button>
      </div>
      {add.error && (
        <p role="alert" className="mt-2 text-alarm">
          {add.error.message}
        </p>
      )}
      {add.data && (
        <p className="mt-2" data-token>
          The token is shown only once:{" "}
          <code className="text-xs [overflow-wrap:anywhere]" data-secret>
            {add.data.token}
          </code>{" "}
          <CopyButton text={add.data.token} label="Copy the token" />
        </p>
      )}
    </form>
  );
}

function Prune() {
  const [days, setDays] = useState("90");
  const prune = usePrune();
  const submit = (e: FormEvent) => {
    e.preventDefault();
    prune.mutate(Number(days));
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-center gap-2" aria-label="Let go of raw output">
      <label>
        Let go of raw output older than{" "}
        <input
          type="number"
          min={0}
          required
          value={days}
          onChange={(e) => setDays(e.target.value)}
          className={`${field} w-20`}
        />{" "}
        days
      </label>
      <button type="submit" disabled={prune.isPending} className={button}>
        Let go
      </button>
      <span className="text-soft">Causes, decisions and reports stay.</span>
      {prune.error && <span className="text-alarm">{prune.error.message}</span>}
      {prune.data && <span>{`The output of ${prune.data.runs} runs was let go.`}</span>}
    </form>
  );
}
