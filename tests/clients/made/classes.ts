// The same by classes of a third.
import { Api, type Problem } from "./client";

export async function told(base: string): Promise<string[]> {
  const api = new Api({ baseUrl: `${base}/_jexa/json` });
  const list = await api.bridges.bridges({ kind: ["arch"] });
  const one = await api.bridges.bridge(8);
  const part = await api.bridges.span(8, 1);
  const none = await api.bridges.bridge(99999).then(() => "", (error: { error: Problem }) => error.error.outcome);
  return [list.data.records[0]?.id ?? "", one.data.fields.code, part.data.id?.number ?? "", none];
}
