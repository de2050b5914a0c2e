// The text editor of the rundown page: line numbers, undo, and mistakes marked
// where they are.
import {
  acceptCompletion,
  completionStatus,
  autocompletion,
  completionKeymap,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { search, searchKeymap } from '@codemirror/search'
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint'
import { StreamLanguage, HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { EditorState, RangeSetBuilder } from '@codemirror/state'
import {
  Decoration,
  drawSelection,
  EditorView,
  highlightActiveLine,
  keymap,
  lineNumbers,
  ViewPlugin,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view'
import type { Mistake, Schemas } from '../../api/client'
import { tags } from './tags'

/** Names, comments and units in their own type; the words stay plain. */
const language = StreamLanguage.define<{ start: boolean; comma: boolean }>({
  startState: () => ({ start: true, comma: false }),
  token(stream, state) {
    if (stream.sol()) state.start = !state.comma
    if (stream.eatSpace()) return null
    const first = state.start
    state.start = false
    state.comma = stream.peek() === ','
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
  '.cm-searchMatch': { backgroundColor: 'color-mix(in srgb, var(--brass) 30%, transparent)' },
  '.cm-searchMatch-selected': { backgroundColor: 'color-mix(in srgb, var(--brass) 65%, transparent)' },
  '.cm-panels': { backgroundColor: 'var(--paper)', color: 'var(--ink)', borderColor: 'var(--rule) !important' },
  '.cm-panel.cm-search': { padding: '6px 10px', fontFamily: 'var(--sentences)' },
  '.cm-panel.cm-search label': { fontSize: '13px' },
  '.cm-textfield': { backgroundColor: 'var(--sheet)', border: '1px solid var(--rule)', color: 'var(--ink)', fontSize: '13px' },
  '.cm-button': {
    backgroundImage: 'none',
    backgroundColor: 'var(--sheet)',
    border: '1px solid var(--rule)',
    borderRadius: '3px',
    color: 'var(--ink)',
    fontSize: '13px',
  },
  '.cm-tooltip-autocomplete > ul > li': { fontFamily: 'var(--figures)', fontSize: '13px', padding: '2px 8px !important' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': { backgroundColor: 'var(--strip) !important', color: 'var(--ink) !important' },
  '.cm-completionDetail': { color: 'var(--soft)', fontStyle: 'normal', fontFamily: 'var(--sentences)', fontSize: '12px' },
})

/** A long line goes on below itself, so many characters further in than it begins. */
const further = 4
/** The deepest that this is done. */
const deepest = 24
const hang = (n: number) => Decoration.line({ class: `cm-hang-${n}` })
const hangLook = EditorView.theme(
  Object.fromEntries(
    Array.from({ length: deepest + 1 }, (_, n) => [
      `.cm-hang-${n}`,
      { paddingLeft: `calc(6px + ${n + further}ch)`, textIndent: `-${n + further}ch` },
    ]),
  ),
)
const hanging = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet
    constructor(view: EditorView) {
      this.decorations = hung(view)
    }
    update(u: ViewUpdate) {
      if (u.docChanged || u.viewportChanged) this.decorations = hung(u.view)
    }
  },
  { decorations: (v) => v.decorations },
)

function hung(view: EditorView): DecorationSet {
  const marks = new RangeSetBuilder<Decoration>()
  for (const { from, to } of view.visibleRanges)
    for (let at = from; at <= to;) {
      const line = view.state.doc.lineAt(at)
      marks.add(line.from, line.from, hang(Math.min(deepest, line.text.search(/\S|$/))))
      at = line.to + 1
    }
  return marks.finish()
}

/** What the page does with what happens in the editor. */
export interface Doing {
  typed: (text: string) => void
  line: (number: number) => void
  apply: () => void
  /** How a line that is typed so far may go on. */
  complete: (typed: string) => Promise<Schemas['Completion'][]>
}

/** Offers what the quick line offers. */
const completing =
  (doing: Doing) =>
  async (context: CompletionContext): Promise<CompletionResult | null> => {
    const { doc } = context.state
    const here = doc.lineAt(context.pos)
    if (here.from + here.text.search(/\S|$/) >= context.pos && !context.explicit) return null
    let first = here
    while (first.number > 1 && doc.line(first.number - 1).text.endsWith(',')) first = doc.line(first.number - 1)
    const start = first.from + first.text.search(/\S|$/)
    const typed = doc.sliceString(start, context.pos)
    // Behind a comma or colon nothing is begun: what was offered would be taken by the Enter that ends the line.
    if (/[,:]\s*$/.test(typed) && !context.explicit) return null
    const list = await doing.complete(typed)
    const from = list[0]?.from
    // Nothing, said while one typed on, would be waited for without being asked again.
    const typedOn = context.view && !context.view.state.doc.eq(doc)
    if (from === undefined) return typedOn ? { from: context.pos, options: [] } : null
    return {
      from: start + offset(typed, from),
      options: list.filter((c) => c.from === from).map((c) => ({ label: c.text.trim(), apply: c.text, detail: c.hint })),
      filter: false,
    }
  }

export function makeEditor(parent: HTMLElement, text: string, doing: Doing): EditorView {
  const nonce = document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content ?? ''
  // Tab while what is offered is still being fetched takes it once it is there.
  let owed = false
  const accept = (view: EditorView) => acceptCompletion(view) || (owed = completionStatus(view.state) === 'pending')
  const leave = (view: EditorView) => {
    view.contentDOM.blur()
    return true
  }
  return new EditorView({
    parent,
    state: EditorState.create({
      doc: text,
      extensions: [
        EditorView.cspNonce.of(nonce),
        lineNumbers(),
        lintGutter(),
        history(),
        drawSelection(),
        highlightActiveLine(),
        EditorView.lineWrapping,
        hanging,
        hangLook,
        search({ top: true }),
        autocompletion({ override: [completing(doing)], icons: false, interactionDelay: 0, activateOnTypingDelay: 0, closeOnBlur: false }),
        keymap.of([
          { key: 'Ctrl-.', run: correctHere },
          { key: 'Mod-Enter', run: () => (doing.apply(), true) },
          { key: 'Tab', run: accept },
          ...completionKeymap,
          ...searchKeymap,
          ...defaultKeymap.filter((k) => k.key !== 'Mod-Enter'),
          ...historyKeymap,
          { key: 'Escape', run: leave },
        ]),
        language,
        syntaxHighlighting(style),
        look,
        EditorView.contentAttributes.of({ 'aria-label': 'Rundown', tabindex: '0', spellcheck: 'false', autocapitalize: 'off' }),
        EditorView.updateListener.of((u) => {
          if (u.docChanged) {
            doing.typed(u.state.doc.toString())
            owed = false
          } else if (owed && completionStatus(u.state) === 'active') {
            owed = false
            queueMicrotask(() => acceptCompletion(u.view))
          }
          if (u.selectionSet || u.docChanged) doing.line(u.state.doc.lineAt(u.state.selection.main.head).number)
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
