import { HighlightStyle } from '@codemirror/language';
import { EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';

/** The console's own colours: they follow its palette, light and dark. */
export const editorTheme = EditorView.theme({
  '&': {
    height: 'calc(100vh - 13rem)',
    minHeight: '20rem',
    fontSize: '0.86rem',
    backgroundColor: 'var(--sheet)',
    color: 'var(--ink)',
  },
  '.cm-scroller': { fontFamily: 'var(--mantine-font-family-monospace)', lineHeight: '1.5' },
  '.cm-content': { caretColor: 'var(--ink)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-gutters': { backgroundColor: 'var(--sheet)', color: 'var(--quiet)', border: 'none' },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'var(--tint)' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
    backgroundColor: 'color-mix(in srgb, var(--link) 26%, transparent)',
  },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', border: '1px solid var(--line)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { backgroundColor: 'var(--tint)', color: 'var(--ink)' },
  '.cm-completionDetail': { color: 'var(--quiet)' },
  '.cm-panels': { backgroundColor: 'var(--paper)', color: 'var(--ink)' },
});

export const wordColours = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--link)' },
  { tag: tags.comment, color: 'var(--quiet)', fontStyle: 'italic' },
  { tag: [tags.string, tags.content], color: 'var(--ink)' },
  { tag: [tags.punctuation, tags.separator, tags.bracket], color: 'var(--quiet)' },
  { tag: tags.invalid, color: 'var(--trouble)' },
]);
