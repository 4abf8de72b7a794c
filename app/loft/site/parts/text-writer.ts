/** A text that is written where it is seen: Markdown whose marks stand back and whose words look as they will. */
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { markdown, markdownLanguage } from '@codemirror/lang-markdown'
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { EditorSelection, EditorState, Prec } from '@codemirror/state'
import type { StateCommand } from '@codemirror/state'
import { EditorView, keymap } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { cleanPaste } from './clean-paste'

export interface TextWriter {
  focus(): void
  /** Another text, unless it is the one that stands there. */
  set(text: string): void
  replace(from: number, to: number, text: string): void
  destroy(): void
}

export interface WriterAsk {
  parent: HTMLElement
  root: ShadowRoot | Document
  text: string
  label: string
  changed(text: string): void
  /** Escape, or an arrow over the edge: -1 upwards, 1 downwards, 0 stays. */
  left(way: -1 | 0 | 1): void
  readOnly?: boolean
  /** Somebody wants the marked words to be for some. */
  passage(marked: { from: number; to: number; text: string }): void
}

const looks = HighlightStyle.define([
  { tag: tags.heading1, fontSize: '1.5em', fontWeight: 'bold' },
  { tag: tags.heading2, fontSize: '1.28em', fontWeight: 'bold' },
  { tag: [tags.heading3, tags.heading4, tags.heading5, tags.heading6], fontSize: '1.1em', fontWeight: 'bold' },
  { tag: tags.strong, fontWeight: 'bold' },
  { tag: tags.emphasis, fontStyle: 'italic' },
  { tag: tags.strikethrough, textDecoration: 'line-through' },
  { tag: tags.link, color: 'var(--madder)', textDecoration: 'underline' },
  { tag: tags.monospace, fontFamily: 'ui-monospace, monospace', fontSize: '0.9em' },
  // Marks of the language: there, and no more than that.
  { tag: [tags.processingInstruction, tags.url, tags.contentSeparator], color: 'var(--faint, #9a8b80)' },
])

const theme = EditorView.theme({
  '&': { backgroundColor: 'transparent', outline: 'none' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'inherit', lineHeight: 'inherit', overflow: 'visible' },
  '.cm-content': { padding: '0', caretColor: 'currentColor' },
  '.cm-line': { padding: '0' },
})

/** Puts a mark around what is marked, or takes it away where it stands already. */
const around =
  (mark: string): StateCommand =>
  ({ state, dispatch }) => {
    const changes = state.changeByRange(range => {
      const [from, to] = [range.from - mark.length, range.to + mark.length]
      const isMarked = from >= 0 && state.sliceDoc(from, range.from) === mark && state.sliceDoc(range.to, to) === mark
      return isMarked
        ? {
            changes: [
              { from, to: range.from },
              { from: range.to, to },
            ],
            range: EditorSelection.range(from, from + (range.to - range.from)),
          }
        : {
            changes: [
              { from: range.from, insert: mark },
              { from: range.to, insert: mark },
            ],
            range: EditorSelection.range(range.from + mark.length, range.to + mark.length),
          }
    })
    dispatch(state.update(changes, { userEvent: 'input' }))
    return true
  }

/** What is marked becomes the words of a link, whose address is typed next. */
const link: StateCommand = ({ state, dispatch }) => {
  const { from, to } = state.selection.main
  const words = state.sliceDoc(from, to)
  const at = from + words.length + 3
  dispatch(
    state.update({
      changes: { from, to, insert: `[${words}](/)` },
      selection: words ? EditorSelection.range(at, at + 1) : EditorSelection.cursor(from + 1),
      userEvent: 'input',
    }),
  )
  return true
}

export function textWriter({
  parent,
  root,
  text,
  label,
  changed,
  left,
  passage,
  readOnly = false,
}: WriterAsk): TextWriter {
  const leave = (way: -1 | 1) => (view: EditorView) => {
    const { main } = view.state.selection
    if (!main.empty) return false
    const line = view.state.doc.lineAt(main.head)
    const isEdge = way < 0 ? line.number === 1 : line.number === view.state.doc.lines
    // A line may be several on the screen.
    const moved = view.moveVertically(main, way > 0)
    if (!isEdge || moved.head !== (way < 0 ? 0 : view.state.doc.length)) return false
    if (main.head !== moved.head) return false
    left(way)
    return true
  }
  const view = new EditorView({
    parent,
    root,
    state: EditorState.create({
      doc: text,
      extensions: [
        history(),
        Prec.high(
          keymap.of([
            { key: 'Mod-b', run: around('**'), preventDefault: true },
            { key: 'Mod-i', run: around('*'), preventDefault: true },
            { key: 'Mod-k', run: link, preventDefault: true },
            {
              key: 'Escape',
              run: () => {
                left(0)
                return true
              },
            },
            {
              key: 'e',
              run: editor => {
                const { from, to, empty } = editor.state.selection.main
                if (empty) return false
                passage({ from, to, text: editor.state.sliceDoc(from, to) })
                return true
              },
            },
            { key: 'ArrowUp', run: leave(-1) },
            { key: 'ArrowDown', run: leave(1) },
          ]),
        ),
        keymap.of([...defaultKeymap, ...historyKeymap]),
        markdown({ base: markdownLanguage, addKeymap: true }),
        syntaxHighlighting(looks),
        EditorView.lineWrapping,
        theme,
        EditorState.readOnly.of(readOnly),
        EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'true' }),
        EditorView.updateListener.of(update => {
          if (update.docChanged) changed(update.state.doc.toString())
        }),
        EditorView.domEventHandlers({
          paste: (event, editor) => {
            const html = event.clipboardData?.getData('text/html')
            if (!html) return false
            event.preventDefault()
            editor.dispatch(editor.state.replaceSelection(cleanPaste(html)), { userEvent: 'input.paste' })
            return true
          },
        }),
      ],
    }),
  })
  return {
    focus: () => view.focus(),
    set: next => {
      const now = view.state.doc.toString()
      if (now !== next) view.dispatch({ changes: { from: 0, to: now.length, insert: next } })
    },
    replace: (from, to, insert) => {
      view.dispatch({ changes: { from, to, insert }, selection: EditorSelection.range(from, from + insert.length) })
    },
    destroy: () => view.destroy(),
  }
}
