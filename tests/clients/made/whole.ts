// The same by a whole client that another general generator made.
import { client } from "./whole/client.gen";
import { bridge, bridges, span } from "./whole/sdk.gen";

export async function told(base: string): Promise<string[]> {
  client.setConfig({ baseUrl: `${base}/_jexa/json` });
  const list = await bridges({ query: { kind: ["arch"] } });
  const one = await bridge({ path: { id: 8 } });
  const part = await span({ path: { bridge: 8, number: 1 } });
  const none = await bridge({ path: { id: 99999 } });
  return [list.data?.records[0]?.id ?? "", one.data?.fields.code ?? "", part.data?.id?.number ?? "", none.error?.outcome ?? ""];
}
