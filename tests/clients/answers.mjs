// node answers.mjs DOCUMENT BASE ADDRESSES: whether every live answer, and every example of the document, is of the schema that
// describes it. ADDRESSES is a file with a JSON array. Prints the number of values checked, then the faults.
import { readFileSync } from "node:fs";
import Ajv from "ajv/dist/2020.js";
import formats from "ajv-formats";

const [documentFile, base, addressFile] = process.argv.slice(2);
const document = JSON.parse(readFileSync(documentFile, "utf8"));
const ajv = new Ajv.default({ strict: false, allErrors: true, validateFormats: true });
formats.default(ajv);
ajv.addFormat("int64", { type: "number", validate: Number.isInteger });
ajv.addSchema({ $id: "doc", ...document });

const faults = [];
let checked = 0;
function check(what, reference, value) {
  const validate = ajv.getSchema(reference) ?? ajv.compile({ $ref: reference });
  checked++;
  if (validate(value)) return;
  const told = validate.errors.slice(0, 3).map((error) => `${error.instancePath} ${error.message}`);
  faults.push(`${what}: ${JSON.stringify(told)}`);
}

const schemas = document.components.schemas;
const schemaOf = (page) => Object.keys(schemas).find((name) => schemas[name].properties?.page?.const === page);
for (const address of JSON.parse(readFileSync(addressFile, "utf8"))) {
  const answer = await (await fetch(`${base}/_jexa/json${address}`)).json();
  const name = schemaOf(answer.page);
  if (name && answer.outcome !== "unknown") check(address, `doc#/components/schemas/${name}`, answer);
  else faults.push(`${address}: no schema for ${answer.page} that is ${answer.outcome}`);
}

const pointer = (text) => encodeURIComponent(text.replaceAll("~", "~0").replaceAll("/", "~1"));
for (const [path, methods] of Object.entries(document.paths))
  for (const [method, operation] of Object.entries(methods))
    for (const [status, response] of Object.entries(operation.responses ?? {}))
      for (const [type, content] of Object.entries(response.content ?? {}))
        if ("example" in content)
          check(`${method} ${path}`, `doc#/paths/${pointer(path)}/${method}/responses/${status}/content/${pointer(type)}/schema`, content.example);

console.log(checked);
console.log(faults.join("\n"));
process.exit(faults.length > 0 ? 1 : 0);
