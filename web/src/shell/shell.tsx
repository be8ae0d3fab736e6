import { Keyboard, Moon, PencilLine, Search, Sun } from "lucide-react";
import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import { Link, NavLink, Outlet, ScrollRestoration, useLocation, useNavigate } from "react-router";
import { KeysDialog } from "./keys-dialog";
import { useSingleKeys } from "./keys";
import { Standing } from "./standing";
import { applyTheme, followSystem, isDusk, readTheme } from "./theme";

const StepFinder = lazy(async () => ({ default: (await import("./step-finder")).StepFinder }));

const RunningBar = lazy(async () => ({ default: (await import("./running-bar")).RunningBar }));

const PLACES = [
  ["/", "String"],
  ["/programs", "Programs"],
  ["/ledger", "Ledger"],
  ["/yard", "Yard"],
] as const;

/** The frame around every view: where one is, the few places to go, the theme, the keys. */
export function Shell() {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const [dusk, setDusk] = useState(() => isDusk(readTheme()));
  const [keysShown, setKeysShown] = useState(false);
  const [finding, setFinding] = useState(false);
  useEffect(followSystem, []);

  const horse = /^\/horses\/([^/]+)/.exec(pathname)?.[1];
  const writeUp = horse ? `/write-up?horse=${horse}` : "/write-up";
  useSingleKeys(
    useCallback(
      (key) => {
        if (key === "s") void navigate("/");
        else if (key === "p") void navigate("/programs");
        else if (key === "l") void navigate("/ledger");
        else if (key === "y") void navigate("/yard");
        else if (key === "w") void navigate(writeUp);
        else if (key === "h" && horse) void navigate(`/horses/${horse}`);
        else if (key === "o" && horse) void navigate(`/horses/${horse}/brief`);
        else if (key === "c" && horse) void navigate(`/horses/${horse}/check-up`);
        else if (key === "t") void navigate(horse ? `/troubles?horse=${horse}` : "/troubles");
        else if (key === "m" && horse) void navigate(`/horses/${horse}/map`);
        else if (key === "/") setFinding(true);
        else if (key === "?") setKeysShown(true);
      },
      [navigate, writeUp, horse],
    ),
  );
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if ((event.ctrlKey || event.metaKey) && event.key === "k") {
        event.preventDefault();
        setFinding(true);
      }
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
  const switchTheme = (): void => {
    applyTheme(dusk ? "day" : "dusk");
    setDusk(!dusk);
  };

  return (
    <>
      <a href="#main" className="button button-main sr-only focus:not-sr-only focus:absolute focus:z-10 focus:m-2">
        To the content
      </a>
      <header className="border-b border-line bg-sheet">
        <div className="mx-auto flex max-w-7xl flex-wrap items-center gap-1.5 px-4 pt-2 sm:flex-nowrap sm:gap-5 sm:pb-2">
          <Link
            to="/"
            className="mr-auto flex min-h-11 items-center gap-2 font-serif text-xl whitespace-nowrap text-pine sm:mr-0"
          >
            <svg viewBox="0 0 32 32" className="size-7 fill-current" aria-hidden="true">
              <path d="M16 2 23 13h-3.4l5 7.4h-4l4.3 5.6H17.4V30h-2.8v-4H7.1l4.3-5.6h-4l5-7.4H9z" />
            </svg>
            <span>Still Pine</span>
          </Link>
          <nav
            aria-label="Places"
            className="order-last -mx-1.5 flex w-full items-center gap-1 sm:order-none sm:mx-0 sm:w-auto sm:flex-1"
          >
            {PLACES.map(([to, name]) => (
              <NavLink
                key={to}
                to={to}
                end={to === "/"}
                className="flex min-h-11 items-center rounded-lg px-1.5 aria-[current=page]:font-bold aria-[current=page]:underline aria-[current=page]:underline-offset-4 sm:px-3"
              >
                {name}
              </NavLink>
            ))}
          </nav>
          <button
            type="button"
            className="button w-11 shrink-0 px-0"
            onClick={() => setFinding(true)}
            aria-label="Find a step"
          >
            <Search size={20} aria-hidden="true" />
          </button>
          <Link
            to={writeUp}
            className="button button-main min-w-11 shrink-0 px-3 whitespace-nowrap"
            aria-label="Write up an outing"
          >
            <PencilLine size={18} aria-hidden="true" /> <span className="hidden sm:inline">Write up</span>
          </Link>
          <button
            type="button"
            className="button w-11 shrink-0 px-0"
            onClick={switchTheme}
            aria-label={dusk ? "Daylight theme" : "Dusk theme"}
          >
            {dusk ? <Sun size={20} aria-hidden="true" /> : <Moon size={20} aria-hidden="true" />}
          </button>
          <button
            type="button"
            className="button hidden w-11 px-0 sm:inline-flex"
            onClick={() => setKeysShown(true)}
            aria-label="Keys"
          >
            <Keyboard size={20} aria-hidden="true" />
          </button>
        </div>
      </header>
      <Standing />
      <Suspense>
        <RunningBar key={pathname} />
      </Suspense>
      <main id="main" tabIndex={-1} className="mx-auto max-w-7xl px-4 py-5 outline-none">
        <Outlet />
      </main>
      <footer className="mx-auto max-w-7xl px-4 pt-4 pb-8 text-sm text-faint">
        Still Pine advises; it never certifies a horse as safe. Local law and licensed vets, dentists, farriers, saddle
        fitters and instructors come first. Scales and standards are Still Pine's own judgement.
      </footer>
      {finding && (
        <Suspense>
          <StepFinder open onOpenChange={setFinding} horse={horse && decodeURIComponent(horse)} />
        </Suspense>
      )}
      <KeysDialog open={keysShown} onOpenChange={setKeysShown} />
      <ScrollRestoration />
    </>
  );
}
