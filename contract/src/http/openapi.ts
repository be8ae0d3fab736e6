import { z } from "zod";
import { ALL_ENDPOINTS, ANY_ROUTE_REFUSES, type Endpoint } from "./endpoints";
import { problemSchema } from "./views";

const REFUSALS: Record<number, string> = {
  400: "Bad input; `errors` names every field.",
  401: "Not let in; pair this device.",
  403: "Only Still Pine's own pages may talk to this server, and this may need another right.",
  404: "Not there.",
  409: "In conflict with what is there; nothing was changed.",
  410: "The code was used already, or its five minutes are over.",
  412: "Changed meanwhile; `current` and `yours` are the two to choose from.",
  413: "Too large.",
  415: "Another kind of content was expected.",
  416: "No such range.",
  422: "Understood, and refused; `errors` says why.",
  428: "The version you saw has to be sent in If-Match.",
  429: "Tried too often; `seconds` says when to try again.",
  503: "The database does not answer; send again.",
  507: "The disk is full; free some space and send again.",
};

const schemaOf = (schema: z.ZodType, io: "input" | "output"): object => {
  const { $schema: _schema, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: "any", reused: "inline" });
  return rest;
};

/** The server's interface as OpenAPI 3.1, made from the schemas it works with. */
export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const route of ALL_ENDPOINTS) (paths[`/api${route.path}`] ??= {})[route.method] = operation(route);
  return {
    openapi: "3.1.0",
    info: {
      title: "Still Pine",
      version: "1",
      description: "The yard's record of how its horses answer. All times are ISO 8601, measures SI.",
    },
    paths,
    components: {
      responses: Object.fromEntries(
        Object.entries(REFUSALS).map(([status, description]) => [
          `Refusal${status}`,
          {
            description,
            content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
          },
        ]),
      ),
      schemas: { Problem: schemaOf(problemSchema, "output") },
    },
  };
}

function operation({ path, method, says, parameters = {}, query, versioned, body, answers, refuses = [] }: Endpoint) {
  const inPath = Object.entries(parameters).map(([name, schema]) => ({
    name,
    in: "path",
    required: true,
    schema: schemaOf(schema, "input"),
  }));
  const inQuery = Object.entries(query?.shape ?? {}).map(([name, schema]) => ({
    name,
    in: "query",
    required: false,
    schema: schemaOf(schema as z.ZodType, "input"),
  }));
  const version = {
    name: "If-Match",
    in: "header",
    required: true,
    schema: { type: "string", pattern: '^(W/)?"[0-9]{1,9}"$' },
  };
  const good = Object.entries(answers).map(([status, answer]) => [
    status,
    {
      description: status === "201" ? "New." : status === "206" ? "The range asked for." : "Done.",
      ...(answer === ""
        ? {}
        : {
            content:
              typeof answer === "string"
                ? { [answer]: {} }
                : { "application/json": { schema: schemaOf(answer, "output") } },
          }),
    },
  ]);
  const bad = [...ANY_ROUTE_REFUSES, ...refuses].map((status) => [
    String(status),
    { $ref: `#/components/responses/Refusal${status}` },
  ]);
  return {
    operationId: `${method}${path.replace(/[^A-Za-z]+/g, "_")}`,
    summary: says,
    parameters: [...inPath, ...inQuery, ...(versioned ? [version] : [])],
    ...(body
      ? {
          requestBody: {
            required: true,
            content: { [body.type]: body.schema ? { schema: schemaOf(body.schema, "input") } : {} },
          },
        }
      : {}),
    responses: Object.fromEntries([...good, ...bad]),
  };
}
