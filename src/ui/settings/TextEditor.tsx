'use client';

import { json } from '@codemirror/lang-json';
import { xml } from '@codemirror/lang-xml';
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { properties } from '@codemirror/legacy-modes/mode/properties';
import { yaml } from '@codemirror/legacy-modes/mode/yaml';
import { linter, lintGutter } from '@codemirror/lint';
import type { Extension } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import CodeMirror, { type ReactCodeMirrorRef } from '@uiw/react-codemirror';
import { useImperativeHandle, useMemo, useRef, type Ref } from 'react';
import { dialects, markLines, openSettings, type Dialect, type DialectFacts, type KeyRule } from '@/core';

export interface EditorHandle {
  /** Shows the first key whose name holds this. */
  goTo(name: string): void;
}

/** Longer texts (characters) are not looked through for lines that would not work: that would hold the page up. */
const MOST_MARKED = 150_000;

const colours = HighlightStyle.define([
  { tag: [tags.comment, tags.lineComment], color: 'var(--bs-secondary-color)', fontStyle: 'italic' },
  { tag: [tags.string, tags.attributeValue], color: 'var(--code-string)' },
  { tag: [tags.number, tags.bool, tags.null], color: 'var(--code-number)' },
  { tag: [tags.heading, tags.tagName, tags.keyword], color: 'var(--code-name)', fontWeight: '650' },
  { tag: [tags.propertyName, tags.attributeName, tags.definition(tags.variableName)], color: 'var(--code-key)' },
]);

/** Forms that no package knows: comments, quoted words, numbers, and the first word of a line. */
const plainWords = StreamLanguage.define<null>({
  token(stream) {
    if (stream.eatSpace()) return null;
    if (stream.match(/^(#|\/\/|;).*/)) return 'comment';
    if (stream.match(/^"(?:[^"\\]|\\.)*"?/)) return 'string';
    if (stream.match(/^[-+]?\d[\d.]*\b/)) return 'number';
    const start = stream.pos === stream.string.length - stream.string.trimStart().length;
    if (stream.match(/^[^\s"{}:]+/)) return start ? 'keyword' : null;
    stream.next();
    return null;
  },
});

const COLOURS: Record<DialectFacts['colours'], () => Extension> = {
  properties: () => StreamLanguage.define(properties),
  xml: () => xml(),
  json: () => json(),
  yaml: () => StreamLanguage.define(yaml),
  words: () => plainWords,
};

const look = EditorView.theme({
  '&': { height: '100%', backgroundColor: 'var(--surface)', color: 'inherit', fontSize: '0.88rem' },
  '.cm-content, .cm-gutters': { fontFamily: 'var(--bs-font-monospace)' },
  '.cm-gutters': { backgroundColor: 'var(--bs-tertiary-bg)', color: 'var(--bs-secondary-color)', border: 'none' },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'color-mix(in srgb, var(--buckle) 12%, transparent)' },
  '.cm-lintRange-info': { backgroundImage: 'none', borderBottom: '1px dotted var(--bs-secondary-color)' },
  '.cm-lintRange-error': { backgroundImage: 'none', backgroundColor: 'var(--bad-bg)' },
  '.cm-lint-marker-error': {
    content: 'none',
    width: '0.3rem',
    height: '1.1em',
    margin: '0.1em 0.25rem',
    backgroundColor: 'var(--bs-danger)',
  },
  '.cm-cursor': { borderLeftColor: 'currentColor' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
    backgroundColor: 'color-mix(in srgb, var(--buckle) 40%, transparent) !important',
  },
  '.cm-panels, .cm-tooltip': {
    backgroundColor: 'var(--surface)',
    color: 'inherit',
    border: '1px solid var(--bs-border-color)',
  },
});

interface Props {
  ref?: Ref<EditorHandle>;
  label: string;
  dialect: Dialect;
  text: string;
  known: [string, KeyRule][];
  onText(text: string): void;
}

/** A text editor with highlighting, search, and marks at lines that the game would not understand. */
export default function TextEditor({ ref, label, dialect, text, known, onText }: Props) {
  const editor = useRef<ReactCodeMirrorRef>(null);
  useImperativeHandle(
    ref,
    () => ({
      goTo(name) {
        const view = editor.current?.view;
        if (!view || name.trim() === '') return;
        const found = openSettings(view.state.doc.toString(), dialect)
          .entries()
          .find(({ path }) => path.join(' › ').toLowerCase().includes(name.trim().toLowerCase()));
        if (!found || found.line > view.state.doc.lines) return;
        const { from, to } = view.state.doc.line(found.line);
        view.dispatch({
          selection: { anchor: from, head: to },
          effects: EditorView.scrollIntoView(from, { y: 'center' }),
        });
      },
    }),
    [dialect],
  );
  const extensions = useMemo(() => {
    const rules = new Map(known);
    return [
      COLOURS[dialects[dialect].colours](),
      syntaxHighlighting(colours),
      look,
      lintGutter({ markerFilter: (found) => found.filter(({ severity }) => severity === 'error') }),
      EditorView.contentAttributes.of({ 'aria-label': label, tabindex: '0' }),
      linter((view) => {
        const doc = view.state.doc;
        if (doc.length > MOST_MARKED) return [];
        return markLines(doc.toString(), dialect, rules)
          .filter(({ line }) => line <= doc.lines)
          .map(({ line, level, says }) => ({
            from: doc.line(line).from,
            to: doc.line(line).to,
            severity: level === 'wrong' ? ('error' as const) : ('info' as const),
            message: says,
          }));
      }),
    ];
  }, [dialect, known, label]);
  return (
    <CodeMirror
      ref={editor}
      value={text}
      theme="none"
      height="100%"
      className="h-100"
      extensions={extensions}
      indentWithTab={false}
      basicSetup={{ autocompletion: false, closeBrackets: false, foldGutter: false }}
      onChange={onText}
    />
  );
}
