// node lint.mjs DOCUMENT: what a general linter finds in an OpenAPI document, a line each. Exit code 1 if it finds anything that is
// not named here with its reason.
import { readFileSync } from "node:fs";
import { createConfig, lintFromString } from "@redocly/openapi-core";

const allowed = {
  "info-license": "the app file says nothing of a license",
  "no-ambiguous-paths": "Jexa's rule is the standard's: a literal segment goes before a parameter",
  "no-unused-components": "shared schemas stand in every document",
};
const found = await lintFromString({
  source: readFileSync(process.argv[2], "utf8"),
  absoluteRef: process.argv[2],
  config: await createConfig({ extends: ["recommended"] }),
});
const faults = found.filter((problem) => problem.severity === "error" || !(problem.ruleId in allowed));
for (const fault of faults) console.log(`${fault.severity} ${fault.ruleId} ${fault.location?.[0]?.pointer ?? ""}: ${fault.message}`);
process.exit(faults.length > 0 ? 1 : 0);
