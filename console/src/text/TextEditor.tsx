import { autocompletion, type CompletionContext, type CompletionResult, completionKeymap } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import { bracketMatching, foldGutter, indentOnInput, syntaxHighlighting } from '@codemirror/language';
import { type Diagnostic, lintGutter, setDiagnostics } from '@codemirror/lint';
import { highlightSelectionMatches, searchKeymap } from '@codemirror/search';
import { EditorState } from '@codemirror/state';
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  hoverTooltip,
  keymap,
  lineNumbers,
  type Tooltip,
} from '@codemirror/view';
import { useEffect, useRef } from 'react';
import { answered, api } from '../api/client';
import type { WorkingCopyInfo } from '../api/schema';
import { changeBetween, changeOfOthers } from './changeBetween';
import { editorTheme, wordColours } from './editorTheme';

type Props = {
  copy: WorkingCopyInfo;
  line: number | null;
  /** Sends what was typed; gives the working copy as it is then. */
  type: (version: string, text: string) => Promise<WorkingCopyInfo>;
};

/** A pause in typing after which the text is sent, in milliseconds. */
const pause = 300;

/**
 * The editor of the app file. What is typed goes into the working copy after a pause; what others change there comes into the
 * editor, unless something typed is still on its way.
 */
export default function TextEditor({ copy, line, type }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  /** The version that the text in the editor was typed into, and whether something was typed since. */
  const known = useRef({ version: copy.version, text: copy.text, isTyped: false });
  const send = useRef(type);
  send.current = type;
  const later = useRef<() => void>(() => undefined);

  // The editor is made once; what changes comes by the effects below.
  useEffect(() => {
    let waiting: ReturnType<typeof setTimeout> | undefined;
    const flush = async () => {
      const editor = view.current;
      if (editor === undefined || !known.current.isTyped) return;
      const sent = editor.state.doc.toString();
      try {
        const after = await send.current(known.current.version, withLineEnds(sent, known.current.text));
        known.current = { version: after.version, text: after.text, isTyped: editor.state.doc.toString() !== sent };
      } catch {
        // Somebody else was faster: their text comes with the next look, and what was typed here is sent on top of it.
      }
    };
    const typed = EditorView.updateListener.of((update) => {
      if (!update.docChanged || update.transactions.some((change) => change.isUserEvent('jexa'))) return;
      known.current.isTyped = true;
      later.current();
    });
    later.current = () => {
      clearTimeout(waiting);
      waiting = setTimeout(() => void flush(), pause);
    };
    const editor = new EditorView({
      parent: place.current as HTMLDivElement,
      state: EditorState.create({ doc: known.current.text, extensions: [...extensions(), typed] }),
    });
    view.current = editor;
    return () => {
      clearTimeout(waiting);
      void flush();
      editor.destroy();
    };
  }, []);

  useEffect(() => {
    const editor = view.current;
    if (editor === undefined || copy.version === known.current.version) return tell(editor, copy);
    const { isTyped, text } = known.current;
    const [base, mine, theirs] = [plain(text), editor.state.doc.toString(), plain(copy.text)];
    known.current = { version: copy.version, text: copy.text, isTyped };
    const change = isTyped ? changeOfOthers(base, mine, theirs) : changeBetween(mine, theirs);
    if (change !== null) editor.dispatch({ changes: change, userEvent: 'jexa' });
    if (isTyped) later.current();
    tell(editor, copy);
  }, [copy]);

  useEffect(() => {
    const editor = view.current;
    if (editor === undefined || line === null || line > editor.state.doc.lines) return;
    const { from } = editor.state.doc.line(line);
    editor.dispatch({ selection: { anchor: from }, effects: EditorView.scrollIntoView(from, { y: 'center' }) });
    editor.focus();
  }, [line]);

  return <div className="sheet editor" ref={place} />;
}

function extensions() {
  const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';
  return [
    EditorView.cspNonce.of(nonce),
    EditorView.contentAttributes.of({ 'aria-label': 'Text of the app file', tabindex: '0' }),
    lineNumbers(),
    foldGutter(),
    history(),
    drawSelection(),
    indentOnInput(),
    bracketMatching(),
    highlightActiveLine(),
    highlightActiveLineGutter(),
    highlightSelectionMatches(),
    yaml(),
    syntaxHighlighting(wordColours),
    editorTheme,
    lintGutter(),
    autocompletion({ override: [complete], activateOnTyping: true }),
    hoverTooltip(explain),
    keymap.of([
      { key: 'F12', run: define },
      indentWithTab,
      ...completionKeymap,
      ...searchKeymap,
      ...historyKeymap,
      ...defaultKeymap,
    ]),
  ];
}

async function complete(context: CompletionContext): Promise<CompletionResult | null> {
  const before = context.state.sliceDoc(context.state.doc.lineAt(context.pos).from, context.pos);
  if (!context.explicit && !/[\w.-]$/.test(before)) return null;
  const found = await answered(
    api.POST('/api/working-copy/completions', { body: { text: context.state.doc.toString(), offset: context.pos } }),
  );
  return {
    from: found.from,
    options: found.completions.map((one) => ({ label: one.label, apply: one.text, detail: short(one.detail) })),
    validFor: /^[\w.-]*$/,
  };
}

async function explain(view: EditorView, pos: number): Promise<Tooltip | null> {
  const found = await answered(api.POST('/api/working-copy/hover', { body: { text: view.state.doc.toString(), offset: pos } }));
  if (found.markdown === null) return null;
  const text = found.markdown;
  return {
    pos,
    above: true,
    create: () => {
      const dom = document.createElement('div');
      dom.className = 'hover';
      // The few marks that the service writes are for other editors.
      dom.textContent = text.replaceAll('**', '').replaceAll('`', '');
      return { dom };
    },
  };
}

function define(view: EditorView): boolean {
  const offset = view.state.selection.main.head;
  void answered(api.POST('/api/working-copy/hover', { body: { text: view.state.doc.toString(), offset } })).then((found) => {
    if (found.line === null || found.line > view.state.doc.lines) return;
    const { from } = view.state.doc.line(found.line);
    view.dispatch({ selection: { anchor: from }, effects: EditorView.scrollIntoView(from, { y: 'center' }) });
  });
  return true;
}

function diagnosticsOf(copy: WorkingCopyInfo, state: EditorState): Diagnostic[] {
  return copy.findings
    .filter(({ finding }) => finding.line >= 1 && finding.line <= state.doc.lines)
    .map(({ finding }) => {
      const line = state.doc.line(finding.line);
      const from = Math.min(line.from + finding.column - 1, line.to);
      const length = finding.found !== null && state.sliceDoc(from, line.to).startsWith(finding.found) ? finding.found.length : 1;
      return {
        from,
        to: Math.min(line.to, from + length),
        severity: finding.severity === 'error' ? 'error' : finding.severity === 'warning' ? 'warning' : 'info',
        message: `${finding.code}: ${finding.message} ${finding.remedy}`,
      };
    });
}

/** Shows the findings in the margin. */
function tell(editor: EditorView | undefined, copy: WorkingCopyInfo): void {
  editor?.dispatch(setDiagnostics(editor.state, diagnosticsOf(copy, editor.state)));
}

const plain = (text: string) => text.replaceAll('\r\n', '\n');
const withLineEnds = (text: string, like: string) => (like.includes('\r\n') ? text.replaceAll('\n', '\r\n') : text);
const short = (text: string) => (text.length > 60 ? `${text.slice(0, 60)}…` : text);
