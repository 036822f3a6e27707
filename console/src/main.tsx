import "./style.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { ActivityPage } from "./pages/ActivityPage";
import { CasebookPage } from "./pages/CasebookPage";
import { CausePage } from "./pages/CausePage";
import { CausesPage } from "./pages/CausesPage";
import { CommitsPage } from "./pages/CommitsPage";
import { ComparePage } from "./pages/ComparePage";
import { DebtsPage } from "./pages/DebtsPage";
import { MissingPage } from "./pages/MissingPage";
import { NotesPage } from "./pages/NotesPage";
import { ReportPage } from "./pages/ReportPage";
import { ReviewPage } from "./pages/ReviewPage";
import { RunPage } from "./pages/RunPage";
import { RunsPage } from "./pages/RunsPage";
import { ServicePage } from "./pages/ServicePage";
import { StartPage } from "./pages/StartPage";
import { TestsPage } from "./pages/TestsPage";
import { UpgradePage } from "./pages/UpgradePage";
import { VersionsPage } from "./pages/VersionsPage";
import { Frame } from "./parts/Frame";

const queries = new QueryClient({
  defaultOptions: {
    // What the service refused, it would refuse again.
    queries: {
      staleTime: 5_000,
      retry: (tries, error) => tries < 1 && !(error instanceof Problem && error.status >= 400 && error.status < 500),
    },
  },
});

const router = createBrowserRouter([
  {
    element: <Frame />,
    children: [
      { path: "/", element: <StartPage /> },
      { path: "/upgrades/:upgrade", element: <UpgradePage /> },
      { path: "/upgrades/:upgrade/causes", element: <CausesPage /> },
      { path: "/upgrades/:upgrade/causes/:cause", element: <CausePage /> },
      { path: "/upgrades/:upgrade/runs", element: <RunsPage /> },
      { path: "/upgrades/:upgrade/runs/:run", element: <RunPage /> },
      { path: "/upgrades/:upgrade/compare/:earlier/:later", element: <ComparePage /> },
      { path: "/upgrades/:upgrade/tests", element: <TestsPage /> },
      { path: "/upgrades/:upgrade/notes", element: <NotesPage /> },
      { path: "/upgrades/:upgrade/versions", element: <VersionsPage /> },
      { path: "/upgrades/:upgrade/commits", element: <CommitsPage /> },
      { path: "/upgrades/:upgrade/review", element: <ReviewPage /> },
      { path: "/upgrades/:upgrade/debts", element: <DebtsPage /> },
      { path: "/upgrades/:upgrade/report", element: <ReportPage /> },
      { path: "/upgrades/:upgrade/activity", element: <ActivityPage /> },
      { path: "/service", element: <ServicePage /> },
      { path: "/casebook", element: <CasebookPage /> },
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
