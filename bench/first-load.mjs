// Bytes a browser fetches for the String the first time, against a page that only loads the libraries and fonts it uses.
import { createServer } from "node:http";
import { createReadStream, mkdirSync, statSync, writeFileSync } from "node:fs";
import path from "node:path";
import zlib from "node:zlib";
import tailwind from "@tailwindcss/vite";
import { build } from "vite";
import { openBrowser, startServer } from "./running.mjs";

/** Everything the String loads that is not Still Pine's own. */
const LIBRARIES = `
import { createRoot } from "react-dom/client";
import { StrictMode, createElement as h } from "react";
import { Provider } from "react-redux";
import { createBrowserRouter, RouterProvider, Link, NavLink, Outlet, ScrollRestoration } from "react-router";
import { configureStore } from "@reduxjs/toolkit";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import { Dialog, DropdownMenu } from "radix-ui";
import { z } from "zod";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource/young-serif/latin-400.css";
const api = createApi({ baseQuery: fetchBaseQuery({ baseUrl: "/" }), endpoints: (b) => ({ x: b.query({ query: () => "x" }), y: b.mutation({ query: () => "y" }) }) });
const store = configureStore({ reducer: { api: api.reducer }, middleware: (d) => d().concat(api.middleware) });
const shape = z.looseObject({ a: z.string(), b: z.literal([1, 2]), c: z.iso.date(), d: z.array(z.number()) });
const page = h("div", null, h("p", { style: { fontFamily: "Atkinson Hyperlegible Next Variable" } }, JSON.stringify(shape.safeParse({}).error?.issues ?? [])), h("h1", { style: { fontFamily: "Young Serif" } }, "libraries"),
  h(Link, { to: "/" }, "l"), h(NavLink, { to: "/" }, "n"), h(Outlet), h(ScrollRestoration),
  h(Dialog.Root, null, h(Dialog.Trigger), h(Dialog.Portal, null, h(Dialog.Overlay), h(Dialog.Content, null, h(Dialog.Title), h(Dialog.Close)))),
  h(DropdownMenu.Root, null, h(DropdownMenu.Trigger), h(DropdownMenu.Portal, null, h(DropdownMenu.Content, null, h(DropdownMenu.Item)))));
createRoot(document.getElementById("root")).render(h(StrictMode, null, h(Provider, { store }, h(RouterProvider, { router: createBrowserRouter([{ path: "*", element: page }]) }))));
`;

/** Counts what comes over the wire until the page is quiet, nothing of it from a cache. */
export async function bytesOf(browser, url) {
  // What is fetched afterwards for days without a network is no part of the page.
  const page = await browser.newPage({ serviceWorkers: "block" });
  const session = await page.context().newCDPSession(page);
  await session.send("Network.enable");
  await session.send("Network.setCacheDisabled", { cacheDisabled: true });
  let bytes = 0;
  session.on("Network.loadingFinished", (event) => (bytes += event.encodedDataLength));
  await page.goto(url, { waitUntil: "networkidle" });
  await page.locator("h1").waitFor();
  await page.waitForTimeout(2500);
  await page.close();
  return bytes;
}

/** A plain file server with the same compression as the application. */
function serve(folder) {
  const types = { ".html": "text/html", ".js": "text/javascript", ".css": "text/css", ".woff2": "font/woff2" };
  const server = createServer((request, response) => {
    const file = path.join(folder, request.url === "/" ? "index.html" : path.normalize(request.url));
    try {
      statSync(file);
    } catch {
      response.writeHead(404).end();
      return;
    }
    const type = types[path.extname(file)] ?? "application/octet-stream";
    const isText = !type.startsWith("font");
    response.writeHead(200, { "Content-Type": type, ...(isText ? { "Content-Encoding": "gzip" } : {}) });
    const stream = createReadStream(file);
    (isText ? stream.pipe(zlib.createGzip()) : stream).pipe(response);
  });
  return new Promise((resolve) => server.listen(0, "127.0.0.1", () => resolve(server)));
}

/** Serves the page of libraries, built as the application is. */
export async function serveLibraries(root, scratch) {
  const source = path.join(root, ".cache/bench-libraries");
  mkdirSync(source, { recursive: true });
  writeFileSync(
    path.join(source, "index.html"),
    '<!doctype html><title>libraries</title><div id="root"></div><script type="module" src="./main.js"></script>',
  );
  writeFileSync(path.join(source, "main.js"), LIBRARIES);
  const outDir = path.join(scratch, "libraries");
  await build({
    root: source,
    configFile: false,
    logLevel: "error",
    plugins: [tailwind()],
    build: { outDir, target: "es2022", modulePreload: { polyfill: false } },
  });
  const server = await serve(outDir);
  return { url: `http://127.0.0.1:${server.address().port}/`, close: () => server.close() };
}

export async function firstLoad(root, scratch) {
  const libraries = await serveLibraries(root, scratch);
  const folder = path.join(scratch, "first-load");
  mkdirSync(folder);
  const application = await startServer(root, folder);
  const browser = await openBrowser();
  try {
    return { ours: await bytesOf(browser, application.url), floor: await bytesOf(browser, libraries.url) };
  } finally {
    await browser.close();
    libraries.close();
    await application.stop();
  }
}
