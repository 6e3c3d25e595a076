// A list, a record and an error of the demo, by types that a general generator made and a general way of fetching by them.
import createClient from "openapi-fetch";
import type { paths } from "./types";

export async function told(base: string): Promise<string[]> {
  const client = createClient<paths>({ baseUrl: `${base}/_jexa/json` });
  const list = await client.GET("/bridges", { params: { query: { kind: ["arch"] } } });
  const one = await client.GET("/bridges/{id}", { params: { path: { id: 8 } } });
  const span = await client.GET("/bridges/{bridge}/spans/{number}", { params: { path: { bridge: 8, number: 1 } } });
  const none = await client.GET("/bridges/{id}", { params: { path: { id: 99999 } } });
  // @ts-expect-error there is no such field
  void one.data?.fields.colour;
  return [list.data?.records[0]?.id ?? "", one.data?.fields.code ?? "", span.data?.id?.number ?? "", none.error?.outcome ?? ""];
}
