import { type FormEvent, useState } from "react";
import { useSignIn } from "../api/access";
import { Command } from "./basics";

/** What somebody sees who is not known: how to get in. */
export function SignIn() {
  const [token, setToken] = useState("");
  const signIn = useSignIn();
  const submit = (e: FormEvent) => {
    e.preventDefault();
    signIn.mutate(token.trim());
  };
  return (
    <section className="mx-auto mt-16 max-w-xl" aria-labelledby="sign-in">
      <h1 id="sign-in" className="mb-4 text-lg font-semibold">
        Sign in
      </h1>
      <p>On the machine that you work on, this command prints an address that signs your browser in:</p>
      <p className="my-3">
        <Command text="unicausa sign-in" />
      </p>
      <form onSubmit={submit} className="mt-6">
        <label className="block" htmlFor="token">
          Or give the token that you were given:
        </label>
        <div className="mt-2 flex gap-2">
          <input
            id="token"
            type="password"
            autoComplete="off"
            value={token}
            onChange={(e) => setToken(e.target.value)}
            className="min-w-0 grow rounded border border-line bg-sheet px-2 py-1 font-mono text-xs focus:border-copper"
          />
          <button
            type="submit"
            disabled={!token.trim() || signIn.isPending}
            className="rounded border border-line bg-sheet px-3 py-1 hover:border-copper disabled:text-soft"
          >
            Sign in
          </button>
        </div>
        {signIn.error && (
          <p role="alert" className="mt-2 text-alarm">
            {signIn.error.message}
          </p>
        )}
      </form>
    </section>
  );
}
