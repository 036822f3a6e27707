import "./style.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { MissingPage } from "./pages/MissingPage";
import { StartPage } from "./pages/StartPage";
import { Frame } from "./parts/Frame";
import { UpgradeFrame } from "./parts/UpgradeFrame";

const queries = new QueryClient({
  defaultOptions: {
    // What the service refused, it would refuse again.
    queries: {
      staleTime: 5_000,
      retry: (tries, error) => tries < 1 && !(error instanceof Problem && error.status >= 400 && error.status < 500),
    },
  },
});

/** A page that is loaded when it is opened. */
function page(path: string, load: () => Promise<Record<string, React.ComponentType>>) {
  return {
    path,
    lazy: async () => {
      const [Component] = Object.values(await load());
      return { Component };
    },
  };
}

const router = createBrowserRouter([
  {
    element: <Frame />,
    HydrateFallback: () => null,
    children: [
      { path: "/", element: <StartPage /> },
      {
        path: "/upgrades/:upgrade",
        element: <UpgradeFrame />,
        children: [
          page("", () => import("./pages/UpgradePage")),
          page("causes", () => import("./pages/CausesPage")),
          page("causes/:cause", () => import("./pages/CausePage")),
          page("runs", () => import("./pages/RunsPage")),
          page("runs/:run", () => import("./pages/RunPage")),
          page("compare/:earlier/:later", () => import("./pages/ComparePage")),
          page("tests", () => import("./pages/TestsPage")),
          page("notes", () => import("./pages/NotesPage")),
          page("versions", () => import("./pages/VersionsPage")),
          page("commits", () => import("./pages/CommitsPage")),
          page("review", () => import("./pages/ReviewPage")),
          page("debts", () => import("./pages/DebtsPage")),
          page("report", () => import("./pages/ReportPage")),
          page("activity", () => import("./pages/ActivityPage")),
        ],
      },
      page("/service", () => import("./pages/ServicePage")),
      page("/casebook", () => import("./pages/CasebookPage")),
      { path: "*", element: <MissingPage /> },
    ],
  },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <QueryClientProvider client={queries}>
      <Tooltip.Provider delayDuration={300}>
        <RouterProvider router={router} />
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
}
