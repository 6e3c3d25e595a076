// node markup.mjs FOLDER: what a general checker of HTML finds in the files of a folder, a line each. Exit code 1 if it finds anything.
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { HtmlValidate } from "html-validate";

const rules = {
  // A label around its control may name it as well: some assistive technology knows only the one, some only the other.
  "no-redundant-for": "off",
};
const checker = new HtmlValidate({ root: true, extends: ["html-validate:recommended", "html-validate:a11y"], rules });
let faults = 0;
for (const name of readdirSync(process.argv[2])) {
  const report = await checker.validateString(readFileSync(join(process.argv[2], name), "utf8"), name);
  for (const { messages } of report.results) {
    faults += messages.length;
    for (const message of messages) console.log(`${name}:${message.line}:${message.column} ${message.ruleId}: ${message.message}`);
  }
}
process.exit(faults > 0 ? 1 : 0);
