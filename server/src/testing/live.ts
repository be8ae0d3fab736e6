/** Reads a stream of server-sent events as a browser does. */
export interface Listening {
  /** Events so far: id, and what it carries. */
  readonly got: readonly { id: string; data: any }[];
  /** Resolves when so many have come. @throws after a while */
  until(count: number, withinMs?: number): Promise<void>;
  /** Resolves when the server ends it. */
  ended: Promise<void>;
  close(): void;
}

export async function listenTo(url: string, lastId?: string): Promise<Listening> {
  const stopping = new AbortController();
  const response = await fetch(url, {
    headers: { Accept: "text/event-stream", ...(lastId === undefined ? {} : { "Last-Event-ID": lastId }) },
    signal: stopping.signal,
  });
  if (response.status !== 200 || !response.body) throw new Error(`no stream: ${response.status}`);
  const got: { id: string; data: unknown }[] = [];
  const reading = async (body: ReadableStream<Uint8Array>): Promise<void> => {
    const decoder = new TextDecoder();
    let text = "";
    for await (const piece of body as unknown as AsyncIterable<Uint8Array>) {
      text += decoder.decode(piece, { stream: true });
      for (let end = text.indexOf("\n\n"); end >= 0; end = text.indexOf("\n\n")) {
        const block = text.slice(0, end);
        text = text.slice(end + 2);
        const field = (name: string): string | undefined => new RegExp(`^${name}: ?(.*)$`, "m").exec(block)?.[1];
        const data = field("data");
        if (field("event") === "event" && data !== undefined)
          got.push({ id: field("id") ?? "", data: JSON.parse(data) });
      }
    }
  };
  const ended = reading(response.body).catch(() => undefined);
  return {
    got,
    ended,
    until: async (count, withinMs = 2000) => {
      for (const end = Date.now() + withinMs; got.length < count;) {
        if (Date.now() > end) throw new Error(`${got.length} of ${count} events came within ${withinMs} ms`);
        await new Promise((resolve) => setTimeout(resolve, 10));
      }
    },
    close: () => stopping.abort(),
  };
}
