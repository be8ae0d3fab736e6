import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Shell } from "./shell/shell";
import { PageFault } from "./shell/page-fault";
import { applyTheme, readTheme } from "./shell/theme";
import { store } from "./store";
import { StringPage } from "./views/string/string-page";
import "./styles.css";

applyTheme(readTheme());

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <PageFault />,
    children: [
      { index: true, element: <StringPage /> },
      {
        path: "horses/:horse",
        lazy: async () => ({ Component: (await import("./views/horse/horse-page")).HorsePage }),
      },
      {
        path: "horses/:horse/steps/:step",
        lazy: async () => ({ Component: (await import("./views/step/step-page")).StepPage }),
      },
      {
        path: "horses/:horse/map",
        lazy: async () => ({ Component: (await import("./views/map/map-page")).MapPage }),
      },
      {
        path: "horses/:horse/outings/:outing",
        lazy: async () => ({ Component: (await import("./views/outing/outing-page")).OutingPage }),
      },
      {
        path: "write-up",
        lazy: async () => ({ Component: (await import("./views/write-up/write-up-page")).WriteUpPage }),
      },
      {
        path: "ledger",
        lazy: async () => ({ Component: (await import("./views/ledger/ledger-page")).LedgerPage }),
      },
      {
        path: "yard",
        lazy: async () => ({ Component: (await import("./views/yard/yard-page")).YardPage }),
      },
      {
        path: "horses/:horse/brief",
        lazy: async () => ({ Component: (await import("./views/brief/brief-page")).BriefPage }),
      },
      {
        path: "horses/:horse/outings/:outing/review",
        lazy: async () => ({ Component: (await import("./views/review/review-page")).ReviewPage }),
      },
      {
        path: "waiting",
        lazy: async () => ({ Component: (await import("./views/waiting/waiting-page")).WaitingPage }),
      },
      {
        path: "join",
        lazy: async () => ({ Component: (await import("./views/join/join-page")).JoinPage }),
      },
      {
        path: "phones",
        lazy: async () => ({ Component: (await import("./views/phones/phones-page")).PhonesPage }),
      },
      {
        path: "horses/:horse/check-up",
        lazy: async () => ({ Component: (await import("./views/check-up/check-up-page")).CheckUpPage }),
      },
      {
        path: "troubles",
        lazy: async () => ({ Component: (await import("./views/troubles/troubles-page")).TroublesPage }),
      },
      {
        path: "programs",
        lazy: async () => ({ Component: (await import("./views/programs/programs-page")).ProgramsPage }),
      },
      {
        path: "programs/compare",
        lazy: async () => ({ Component: (await import("./views/programs/compare-page")).ComparePage }),
      },
      {
        path: "programs/:program/edit",
        lazy: async () => ({ Component: (await import("./views/programs/edit/edit-page")).EditPage }),
      },
      {
        path: "programs/:program",
        lazy: async () => ({ Component: (await import("./views/programs/program-page")).ProgramPage }),
      },
      { path: "*", element: <PageFault /> },
    ],
  },
  // The pen has the whole screen to itself.
  {
    path: "pen/:outing",
    errorElement: <PageFault />,
    lazy: async () => ({ Component: (await import("./views/pen/pen-page")).PenPage }),
  },
  {
    path: "rail/:outing",
    errorElement: <PageFault />,
    lazy: async () => ({ Component: (await import("./views/rail/rail-page")).RailPage }),
  },
]);

// Beside the pages, and after the first of them.
void import("./alone/start").then(({ startAlone }) =>
  startAlone(({ who, outing }) => {
    // A helper sees their outing and nothing else.
    if (who === "write" && outing !== null && !/^\/(rail|join|waiting)/.test(location.pathname))
      void router.navigate(`/rail/${encodeURIComponent(outing)}`);
  }),
);

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root");
createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
