import { test as base, type Page } from "@playwright/test";

export * from "@playwright/test";

const TOLD = "/api/running";
/** Longer than this nobody waits for what is told above a page: some tests hold it back. */
const TOLD_WITHIN_MS = 20_000;

/** Resolves when the page has been told which outings run, or that nobody can say. */
function tellsWhatRuns(page: Page): Promise<unknown> {
  const isIt = (one: { url: () => string }): boolean => new URL(one.url()).pathname === TOLD;
  const options = { predicate: isIt, timeout: TOLD_WITHIN_MS };
  return Promise.race([page.waitForEvent("response", options), page.waitForEvent("requestfailed", options)]).catch(
    () => null,
  );
}

/**
 * A page that waits after it is opened until what is told above it is known: it moves what is below, and a press on its way there
 * would go astray. The page of a test is one; one that a test opens by itself has to be made so.
 */
export function patient(page: Page): Page {
  const open = page.goto.bind(page);
  page.goto = async (url, options) => {
    const told = tellsWhatRuns(page);
    const response = await open(url, options);
    // The pen, the rail and what is no page of ours have no frame, and are told nothing.
    const drawn = page.locator("#root > *").first();
    await drawn.waitFor({ state: "attached", timeout: TOLD_WITHIN_MS }).catch(() => null);
    if ((await page.getByRole("navigation", { name: "Places" }).count()) > 0) await told;
    return response;
  };
  return page;
}

/** The test of the framework, with a patient page. */
export const test = base.extend({
  page: async ({ page }, use) => {
    await use(patient(page));
  },
});
