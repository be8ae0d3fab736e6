import type { RequestListener } from "node:http";

/** The one page phones get without HTTPS: how to trust the yard's certificate. It tells nothing of the yard. */

const CERTIFICATE = "/still-pine-yard.crt";

interface Trust {
  /** Where Still Pine itself is. */
  address: string;
  fingerprint: string;
  /** The authority's certificate. */
  der: Buffer;
}

const page = ({ address, fingerprint }: Trust): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Trust this yard · Still Pine</title>
<style>
:root { color-scheme: light dark; --ground: #f7f2e8; --ink: #2b211a; --pine: #1f4d3a; --on: #f7f2e8; --line: #c9bda8 }
@media (prefers-color-scheme: dark) { :root { --ground: #1a1613; --ink: #f0e9dc; --pine: #9fd0b3; --on: #1a1613; --line: #4a4038 } }
body { margin: 0 auto; max-width: 38rem; padding: 1.25rem; background: var(--ground); color: var(--ink); font: 1.05rem/1.5 system-ui, sans-serif }
h1 { font-size: 1.5rem; line-height: 1.2 } h2 { font-size: 1.15rem; margin: 1.75rem 0 .25rem }
a.act { display: block; margin: .75rem 0; padding: .9rem 1rem; border-radius: .6rem; background: var(--pine); color: var(--on); font-weight: 700; text-align: center; text-decoration: none }
li { margin: .35rem 0 } code { font-size: .85rem; overflow-wrap: anywhere }
aside { margin-top: 1.75rem; padding: .75rem 1rem; border: 1px solid var(--line); border-radius: .6rem }
</style>
</head>
<body>
<h1>Let this phone trust your yard's Still Pine</h1>
<p>Once for each phone. Afterwards it keeps what you record, works without a network, and may be put on the home screen.</p>
<a class="act" href="${CERTIFICATE}">1. Get the certificate</a>
<h2>iPhone or iPad</h2>
<ol>
<li>Open this page in Safari. Tap the button above, then <b>Allow</b>.</li>
<li>Open <b>Settings</b>. Near the top: <b>Profile Downloaded</b>. Tap <b>Install</b>, and once more.</li>
<li>Then <b>Settings, General, About, Certificate Trust Settings</b>: switch on the one called <b>Still Pine yard</b>.</li>
</ol>
<h2>Android</h2>
<ol>
<li>Tap the button above; the file is saved.</li>
<li>Open <b>Settings</b> and search for <b>CA certificate</b> (under Security, Encryption and credentials, Install a certificate). Choose it, <b>Install anyway</b>, and pick the file.</li>
<li>The phone needs a screen lock for this, and will ask for it.</li>
</ol>
<a class="act" href="${address}/join">2. Open Still Pine</a>
<p>It asks for a code: make one on the laptop, under Yard, Phones.</p>
<aside>
<p><b>What this means.</b> This phone then believes your yard's laptop when it says who it is. The certificate can speak for addresses inside your own network and names ending in .local, and for nothing else: not for a bank, a shop or any page on the internet. Whoever takes the laptop could pretend to be this yard's Still Pine, no more. To take it back, remove it where you put it in.</p>
<p>The laptop shows the same fingerprint; compare it if you want to be sure:<br><code>${fingerprint}</code></p>
</aside>
</body>
</html>
`;

/** Answers with the page and the certificate, and with nothing else. */
export function trustPage(trust: Trust): RequestListener {
  const html = page(trust);
  return (request, response) => {
    // Compared as it was sent: not every address that can be sent is one that can be taken apart.
    const [pathname] = (request.url ?? "/").split("?", 1);
    const headers = {
      "Cache-Control": "no-store",
      "X-Content-Type-Options": "nosniff",
      "Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'",
      Connection: "close",
    };
    if (request.method !== "GET" && request.method !== "HEAD") response.writeHead(405, headers).end();
    else if (pathname === CERTIFICATE)
      response
        .writeHead(200, {
          ...headers,
          "Content-Type": "application/x-x509-ca-cert",
          "Content-Disposition": 'attachment; filename="still-pine-yard.crt"',
        })
        .end(request.method === "HEAD" ? undefined : trust.der);
    else if (pathname === "/")
      response
        .writeHead(200, { ...headers, "Content-Type": "text/html; charset=utf-8" })
        .end(request.method === "HEAD" ? undefined : html);
    else response.writeHead(404, { ...headers, "Content-Type": "text/plain" }).end("There is nothing here.\n");
  };
}
