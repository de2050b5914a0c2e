// The text editor of the rundown page: line numbers, undo, and mistakes marked
// where they are.
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint'
import { StreamLanguage, HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { EditorState } from '@codemirror/state'
import { drawSelection, EditorView, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view'
import type { Mistake } from '../../api/client'
import { tags } from './tags'

/** Names, comments and units in their own type; the words stay plain. */
const language = StreamLanguage.define<{ start: boolean }>({
  startState: () => ({ start: true }),
  token(stream, state) {
    if (stream.sol()) state.start = true
    if (stream.eatSpace()) return null
    const first = state.start
    state.start = false
    if (stream.match(/#.*/)) return 'comment'
    if (stream.match(/"(?:[^"\\]|\\.)*"?/)) return 'string'
    if (first && stream.match(/(lab|rack|place)\b/)) return 'keyword'
    if (first && stream.match(/(\?|[uU]?\d+(-\d+)?|left|right|top|under)(?=\s)/)) return 'number'
    if (stream.match(/\d+(\.\d+)?[a-zA-Z]*/)) return 'unit'
    if (stream.match('?')) return 'number'
    if (!stream.match(/[^\s"#,:?]+/)) stream.next()
    return null
  },
  tokenTable: { unit: tags.unit },
})

const style = HighlightStyle.define([
  { tag: tags.comment, color: 'var(--soft)', fontStyle: 'italic' },
  { tag: tags.string, fontWeight: '500' },
  { tag: tags.keyword, color: 'var(--red)' },
  { tag: tags.number, color: 'var(--red)' },
  { tag: tags.unit, color: 'var(--water)' },
])

const look = EditorView.theme({
  '&': { height: '100%', fontSize: '13.5px', backgroundColor: 'var(--sheet)', color: 'var(--ink)' },
  '.cm-scroller': { fontFamily: 'var(--figures)', lineHeight: '1.55' },
  '.cm-gutters': { backgroundColor: 'var(--paper)', color: 'var(--soft)', borderRight: '1px solid var(--rule)' },
  '.cm-activeLine': { backgroundColor: 'transparent', boxShadow: 'inset 3px 0 var(--water)' },
  '.cm-cursor': { borderLeftColor: 'var(--red)', borderLeftWidth: '2px' },
  '&.cm-focused': { outline: 'none' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
    backgroundColor: 'color-mix(in srgb, var(--pale) 35%, transparent) !important',
  },
  '.cm-lintRange-error': { backgroundImage: 'none', textDecoration: 'underline wavy var(--red)', textUnderlineOffset: '4px' },
  '.cm-tooltip': {
    backgroundColor: 'var(--sheet)',
    border: '1px solid var(--ink)',
    borderRadius: '3px',
    color: 'var(--ink)',
    fontFamily: 'var(--sentences)',
  },
  '.cm-diagnostic-error': { borderLeft: '3px solid var(--red)' },
})

export function makeEditor(parent: HTMLElement, doc: string, onChange: (text: string) => void, onLine: (line: number) => void): EditorView {
  const nonce = document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content ?? ''
  return new EditorView({
    parent,
    state: EditorState.create({
      doc,
      extensions: [
        EditorView.cspNonce.of(nonce),
        lineNumbers(),
        lintGutter(),
        history(),
        drawSelection(),
        highlightActiveLine(),
        keymap.of([{ key: 'Ctrl-.', run: correctHere }, ...defaultKeymap, ...historyKeymap]),
        language,
        syntaxHighlighting(style),
        look,
        EditorView.contentAttributes.of({ 'aria-label': 'Rundown', tabindex: '0', spellcheck: 'false', autocapitalize: 'off' }),
        EditorView.updateListener.of((u) => {
          if (u.docChanged) onChange(u.state.doc.toString())
          if (u.selectionSet || u.docChanged) onLine(u.state.doc.lineAt(u.state.selection.main.head).number)
        }),
      ],
    }),
  })
}

/** Columns count characters; the editor counts UTF-16. */
function offset(line: string, column: number): number {
  return [...line].slice(0, column - 1).join('').length
}

/** Where a mistake stands in the text. */
function spanOf(view: EditorView, m: Mistake) {
  const doc = view.state.doc
  const line = doc.line(Math.min(Math.max(1, m.line), doc.lines))
  const from = Math.min(line.from + offset(line.text, m.column), line.to)
  return { from, to: Math.max(from, Math.min(line.from + offset(line.text, m.end_column), line.to)) }
}

const marked = new WeakMap<EditorView, Mistake[]>()

/** The word that was meant takes the place of the one that is wrong. */
export function correct(view: EditorView, m: Mistake) {
  if (m.nearest) view.dispatch({ changes: { ...spanOf(view, m), insert: m.nearest } })
  view.focus()
}

/** Corrects the first such mistake from the cursor's line on. */
function correctHere(view: EditorView): boolean {
  const here = view.state.doc.lineAt(view.state.selection.main.head).number
  const wrong = (marked.get(view) ?? []).filter((m) => m.nearest)
  const m = wrong.find((m) => m.line >= here) ?? wrong[0]
  if (m) correct(view, m)
  return !!m
}

export function markMistakes(view: EditorView, mistakes: Mistake[]) {
  marked.set(view, mistakes)
  const list: Diagnostic[] = mistakes.map((m) => {
    return {
      ...spanOf(view, m),
      severity: 'error',
      message: m.expected && !m.nearest ? `${m.detail}\nExpected: ${m.expected}` : m.detail,
    }
  })
  view.dispatch(setDiagnostics(view.state, list))
}
