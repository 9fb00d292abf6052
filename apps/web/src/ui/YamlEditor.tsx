import { autocompletion, completionKeymap, type CompletionContext } from '@codemirror/autocomplete';
import { yaml } from '@codemirror/lang-yaml';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { minimalSetup } from 'codemirror';
import { useEffect, useEffectEvent, useRef } from 'react';

/** What may be completed: a word, and what it means. */
export interface Word {
  word: string;
  says: string;
  type: 'field' | 'value';
}

const looks = EditorView.theme({
  '&': { border: '1px solid var(--rule-2)', borderRadius: '2px', background: 'var(--sheet)', height: '300px', fontSize: '12.5px' },
  '&.cm-focused': { outline: '2px solid var(--tile)', outlineOffset: '2px' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '18px' },
  '.cm-content': { caretColor: 'var(--ink)' },
  '.cm-gutters': { background: 'var(--earth)', color: 'var(--ink-3)', borderRight: '1px solid var(--rule)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': { background: 'var(--tile-wash)' },
  '.cm-tooltip': { background: 'var(--sheet)', border: '1px solid var(--ink)', color: 'var(--ink)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { background: 'var(--earth)', color: 'var(--ink)' },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: '2px solid var(--brick)' },
  '.cm-diagnostic-error': { borderLeftColor: 'var(--brick)' },
});

const inks = syntaxHighlighting(
  HighlightStyle.define([
    { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--tile)' },
    { tag: [tags.comment, tags.lineComment], color: 'var(--ink-3)' },
    { tag: [tags.separator, tags.squareBracket, tags.brace], color: 'var(--ink-3)' },
  ]),
);

/** A text in YAML: its faults at their lines, its words completed from the schema. Tab leaves it, as it leaves every field. */
export default function YamlEditor({
  label,
  value,
  onChange,
  faults,
  words,
  describedBy,
}: {
  label: string;
  value: string;
  onChange: (text: string) => void;
  /** What is wrong, by line. */
  faults: readonly { line: number; text: string }[];
  words: readonly Word[];
  describedBy: string;
}) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const changed = useEffectEvent(onChange);
  const complete = useEffectEvent((context: CompletionContext) => {
    const typed = context.matchBefore(/[\w.-]*/);
    if (!typed || (typed.from === typed.to && !context.explicit)) return null;
    // behind a colon a value is written, before it a field
    const line = context.state.doc.lineAt(context.pos);
    const isValue = /:\s+[\w.-]*$/.test(line.text.slice(0, context.pos - line.from));
    return {
      from: typed.from,
      options: words
        .filter(({ type }) => (type === 'value') === isValue || context.explicit)
        .map(({ word, says, type }) => ({ label: word, detail: says.slice(0, 60), type: type === 'field' ? 'property' : 'constant' })),
      validFor: /^[\w.-]*$/,
    };
  });
  const begin = useEffectEvent(
    (parent: HTMLElement) =>
      new EditorView({
        parent,
        state: EditorState.create({
          doc: value,
          extensions: [
            minimalSetup,
            lineNumbers(),
            yaml(),
            lintGutter(),
            autocompletion({ override: [(context) => complete(context)] }),
            keymap.of(completionKeymap),
            looks,
            inks,
            EditorView.contentAttributes.of({ 'aria-label': label, 'aria-describedby': describedBy, spellcheck: 'false' }),
            EditorView.updateListener.of((update) => update.docChanged && changed(update.state.doc.toString())),
          ],
        }),
      }),
  );
  useEffect(() => {
    if (!place.current) return undefined;
    const editor = begin(place.current);
    view.current = editor;
    return () => editor.destroy();
  }, []);
  useEffect(() => {
    const editor = view.current;
    if (!editor || editor.state.doc.toString() === value) return;
    editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);
  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    const { doc } = editor.state;
    const diagnostics = faults.map(({ line, text }) => {
      const { from, to } = doc.line(Math.min(Math.max(1, line), doc.lines));
      return { from, to: Math.max(from, to), severity: 'error' as const, message: text };
    });
    editor.dispatch(setDiagnostics(editor.state, diagnostics));
    editor.contentDOM.setAttribute('aria-invalid', String(faults.length > 0));
  }, [faults]);
  return <div ref={place} className="mt-1.5" />;
}
