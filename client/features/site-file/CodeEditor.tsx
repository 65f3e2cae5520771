// The editor of the site file: CodeMirror, which comes when the page is opened. It stands in a root of its own, since the page's policy lets no
// script write styles into it.

import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import { bracketMatching, defaultHighlightStyle, HighlightStyle, indentUnit, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics } from '@codemirror/lint';
import { Compartment, EditorState } from '@codemirror/state';
import { drawSelection, EditorView, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import type { SiteProblem } from '../../state/api/types';
import { corner, usePalette } from '../../ui/theme';
import { texts } from './words';

export type EditorProps = {
  readonly value: string;
  readonly change: (text: string) => void;
  readonly problems: readonly SiteProblem[];
  /** A line that is to be gone to, each time this is another object. */
  readonly goTo: { readonly line: number } | undefined;
};

type Palette = ReturnType<typeof usePalette>;

const looks = (p: Palette) => [
  EditorView.theme(
    {
      '&': { height: '100%', backgroundColor: p.surface, color: p.ink, fontSize: '13px' },
      '.cm-scroller': { fontFamily: 'ui-monospace, monospace', lineHeight: '1.5' },
      '.cm-gutters': { backgroundColor: p.page, color: p.second, borderRight: `1px solid ${p.rule}` },
      '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: p.wash },
      '.cm-content': { caretColor: p.ink },
      '.cm-cursor': { borderLeftColor: p.ink },
      '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': { backgroundColor: p.rule },
      '&.cm-focused': { outline: `2px solid ${p.work}` },
      '.cm-lintRange-error': { backgroundImage: 'none', textDecoration: `underline wavy ${p.alarm}` },
      '.cm-tooltip': { backgroundColor: p.surface, color: p.ink, border: `1px solid ${p.rule}` },
    },
    { dark: p.isDark },
  ),
  syntaxHighlighting(
    HighlightStyle.define([
      { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: p.work },
      { tag: tags.comment, color: p.second, fontStyle: 'italic' },
      { tag: [tags.string, tags.number, tags.bool, tags.atom], color: p.attentionInk },
    ]),
  ),
  syntaxHighlighting(defaultHighlightStyle, { fallback: true }),
];

export default function CodeEditor({ value, change, problems, goTo }: EditorProps) {
  const p = usePalette();
  const place = useRef<View>(null);
  const view = useRef<EditorView>(undefined);
  const look = useRef(new Compartment());
  const latest = useRef(change);
  latest.current = change;
  const start = useRef({ value, palette: p });

  useEffect(() => {
    const host = place.current as unknown as HTMLElement;
    const root = host.shadowRoot ?? host.attachShadow({ mode: 'open' });
    const made = new EditorView({
      root,
      parent: root,
      state: EditorState.create({
        doc: start.current.value,
        extensions: [
          lineNumbers(),
          history(),
          drawSelection(),
          bracketMatching(),
          highlightActiveLine(),
          lintGutter(),
          indentUnit.of('  '),
          EditorView.lineWrapping,
          // Tab leaves it, as it leaves every field.
          keymap.of([...defaultKeymap, ...historyKeymap]),
          yaml(),
          look.current.of(looks(start.current.palette)),
          EditorView.contentAttributes.of({ 'aria-label': texts.siteFile, spellcheck: 'false', autocapitalize: 'off' }),
          EditorView.updateListener.of((update) => update.docChanged && latest.current(update.state.doc.toString())),
        ],
      }),
    });
    // It is scrolled by keys without being edited.
    made.scrollDOM.tabIndex = 0;
    view.current = made;
    return () => made.destroy();
  }, []);

  useEffect(() => {
    const now = view.current;
    if (now && now.state.doc.toString() !== value) now.dispatch({ changes: { from: 0, to: now.state.doc.length, insert: value } });
  }, [value]);
  useEffect(() => view.current?.dispatch({ effects: look.current.reconfigure(looks(p)) }), [p.isDark]); // eslint-disable-line react-hooks/exhaustive-deps -- the palette is made anew at every drawing
  useEffect(() => {
    const now = view.current;
    if (!now) return;
    const at = (line: number) => now.state.doc.line(Math.min(Math.max(1, line), now.state.doc.lines));
    now.dispatch(
      setDiagnostics(
        now.state,
        problems.map(({ line, words }) => ({ from: at(line).from, to: at(line).to, severity: 'error' as const, message: words })),
      ),
    );
  }, [problems]);
  useEffect(() => {
    const now = view.current;
    if (!now || !goTo) return;
    const { from } = now.state.doc.line(Math.min(goTo.line, now.state.doc.lines));
    now.dispatch({ selection: { anchor: from }, effects: EditorView.scrollIntoView(from, { y: 'center' }) });
    now.focus();
  }, [goTo]);

  return (
    <View
      ref={place}
      testID="site-text"
      style={{ flex: 1, minHeight: 0, borderWidth: 1, borderColor: p.rule, borderRadius: corner, overflow: 'hidden' }}
    />
  );
}
