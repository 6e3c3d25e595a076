// Drives the language server as an editor does, with the client library of the protocol: node editor.mjs PROGRAM APP_FILE
// Prints what came back, as one JSON object.
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import {
  CodeActionRequest,
  CompletionRequest,
  createProtocolConnection,
  DefinitionRequest,
  DidChangeTextDocumentNotification,
  DidCloseTextDocumentNotification,
  DidOpenTextDocumentNotification,
  ExitNotification,
  HoverRequest,
  InitializedNotification,
  InitializeRequest,
  PublishDiagnosticsNotification,
  ReferencesRequest,
  RenameRequest,
  ShutdownRequest,
  StreamMessageReader,
  StreamMessageWriter,
} from 'vscode-languageserver-protocol/node';

const [program, file] = process.argv.slice(2);
const server = spawn('dotnet', [program, 'language-server'], { stdio: ['pipe', 'pipe', 'inherit'] });
const client = createProtocolConnection(new StreamMessageReader(server.stdout), new StreamMessageWriter(server.stdin));
client.onError(([error]) => console.error('connection', error));
client.listen();

const uri = pathToFileURL(file).href;
let text = readFileSync(file, 'utf8');
let version = 1;
const waiting = [];
client.onNotification(PublishDiagnosticsNotification.type, (told) => waiting.shift()?.(told.diagnostics));
const diagnostics = () => new Promise((resolve) => waiting.push(resolve));

// The position behind the first place of some words, or within them.
const at = (words, back = 0) => {
  const offset = text.indexOf(words) + words.length - back;
  const before = text.slice(0, offset).split('\n');
  return { line: before.length - 1, character: before.at(-1).length };
};
const change = (next) => {
  text = next;
  const told = diagnostics();
  client.sendNotification(DidChangeTextDocumentNotification.type, {
    textDocument: { uri, version: ++version },
    contentChanges: [{ text }],
  });
  return told;
};
// What the edits of one file make of its text.
const applied = (content, edits) => {
  const offset = ({ line, character }) => content.split('\n').slice(0, line).join('\n').length + (line > 0 ? 1 : 0) + character;
  return edits
    .toSorted((one, other) => offset(other.range.start) - offset(one.range.start))
    .reduce((made, edit) => made.slice(0, offset(edit.range.start)) + edit.newText + made.slice(offset(edit.range.end)), content);
};

const out = {};
const begin = { processId: process.pid, rootUri: null, capabilities: {} };
const { capabilities } = await client.sendRequest(InitializeRequest.type, begin);
out.capabilities = Object.keys(capabilities);
await client.sendNotification(InitializedNotification.type, {});
const opened = diagnostics();
await client.sendNotification(DidOpenTextDocumentNotification.type, {
  textDocument: { uri, languageId: 'yaml', version, text },
});
out.opened = (await opened).map((one) => one.code);

const where = (words, back = 0) => ({ textDocument: { uri }, position: at(words, back) });
out.hover = (await client.sendRequest(HoverRequest.type, where('to: thing', 1)))?.contents.value;
out.meaning = (await client.sendRequest(HoverRequest.type, where('order:', 2)))?.contents.value;
out.definition = await client.sendRequest(DefinitionRequest.type, where('to: thing', 1));
const named = { ...where('to: thing', 1), context: { includeDeclaration: true } };
out.references = (await client.sendRequest(ReferencesRequest.type, named)).map((one) => one.range.start.line + 1);
const renamed = await client.sendRequest(RenameRequest.type, { ...where('to: thing', 1), newName: 'item' });
out.renamed = Object.fromEntries(
  Object.entries(renamed.changes).map(([of, edits]) => [
    of.split('/').at(-1),
    applied(of === uri ? text : readFileSync(new URL(of), 'utf8'), edits),
  ]),
);
out.refused = await client
  .sendRequest(RenameRequest.type, { ...where('app: Thi'), newName: 'x' })
  .then(() => null)
  .catch((error) => error.message);

// A half-written link: completion knows the pages, then the parameters; the wrong one is told with its remedy.
const good = text;
await change(good.replace('to: thing }', 'to: th'));
out.completion = (await client.sendRequest(CompletionRequest.type, where('to: th'))).map((item) => item.label);
const bad = good.replace('to: thing }', 'to: thing, with: { idd: id } }');
out.wrong = (await change(bad)).map((one) => [one.code, one.range.start]);
const actions = await client.sendRequest(CodeActionRequest.type, {
  textDocument: { uri },
  range: { start: at('with: { '), end: at('with: { ') },
  context: { diagnostics: [] },
});
out.actions = actions.map((action) => [action.title, applied(text, action.edit.changes[uri]).includes('with: { id: id }')]);
out.keys = (await client.sendRequest(CompletionRequest.type, where('with: { '))).map((item) => item.label);
out.broken = (await change('app: [')).length > 0;
out.mended = (await change(good)).map((one) => one.code);
await client.sendNotification(DidCloseTextDocumentNotification.type, { textDocument: { uri } });
await client.sendRequest(ShutdownRequest.type);
await client.sendNotification(ExitNotification.type);
out.exit = await new Promise((resolve) => server.on('exit', resolve));
console.log(JSON.stringify(out));
