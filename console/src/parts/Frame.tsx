import { Moon, Sun } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, Outlet, ScrollRestoration } from "react-router";
import { useMe, useSignOut } from "../api/access";
import { Jump } from "./Jump";
import { Undo } from "./Undo";

/** The page's frame: the mark, the way home, and the light. */
export function Frame() {
  return (
    <div className="mx-auto max-w-[1280px] px-4 pb-16 sm:px-8">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:left-4 focus:top-2 focus:bg-sheet focus:px-2"
      >
        To the content
      </a>
      <header className="no-print flex h-14 items-center justify-between">
        <Link to="/" className="flex items-center gap-2 font-semibold tracking-tight">
          <Mark />
          Unicausa
        </Link>
        <div className="flex items-center gap-4">
          <Jump />
          <Link to="/casebook" className="text-soft hover:text-copper">
            Casebook
          </Link>
          <Who />
          <Light />
        </div>
      </header>
      <main id="main">
        <Outlet />
      </main>
      <Undo />
      <ScrollRestoration />
    </div>
  );
}

/** Three strokes running into one. */
function Mark() {
  return (
    <svg
      viewBox="0 0 16 16"
      className="size-4 text-copper"
      fill="none"
      stroke="currentColor"
      strokeWidth="2"
      strokeLinecap="round"
      aria-hidden="true"
    >
      <path d="M1 3c6 0 5 5 9 5M1 8h14M1 13c6 0 5-5 9-5" />
    </svg>
  );
}

/** Who is signed in: every decision bears the name. */
function Who() {
  const me = useMe();
  const out = useSignOut();
  if (!me.data) return null;
  const short = me.data.name.replace(/ <.*>$/, ""); // without the mail address
  const keeps = me.data.roles.some((r) => r.role === "admin" && r.project === "");
  return (
    <span className="flex items-baseline gap-2 text-xs text-soft">
      <span>
        as{" "}
        {keeps ? (
          <Link
            to="/service"
            className="text-ink hover:text-copper"
            title={`${me.data.name}: people, backups, storage`}
          >
            {short}
          </Link>
        ) : (
          <span className="text-ink" title={me.data.name}>
            {short}
          </span>
        )}
      </span>
      <button type="button" onClick={() => out.mutate()} className="hover:text-copper hover:underline">
        Sign out
      </button>
    </span>
  );
}

const system = () => (matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light");

function Light() {
  const [theme, setTheme] = useState(() => localStorage.getItem("theme") ?? system());
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    document.documentElement.style.colorScheme = theme;
  }, [theme]);
  const turn = () => {
    const next = theme === "dark" ? "light" : "dark";
    localStorage.setItem("theme", next);
    setTheme(next);
  };
  return (
    <button
      type="button"
      onClick={turn}
      className="moves rounded p-2 text-soft hover:bg-wash"
      aria-label={theme === "dark" ? "Use the light page" : "Use the dark page"}
    >
      {theme === "dark" ? <Sun className="size-4" /> : <Moon className="size-4" />}
    </button>
  );
}
