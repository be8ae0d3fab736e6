// What the benchmark of the outbox needs of it.
export { InMemory } from "../web/src/outbox/kept";
export { backOffMs, Sender } from "../web/src/outbox/sender";
