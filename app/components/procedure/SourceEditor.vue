<script setup lang="ts">
import { yaml } from '@codemirror/lang-yaml'
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint'
import { EditorState } from '@codemirror/state'
import { EditorView } from '@codemirror/view'
import { basicSetup } from 'codemirror'
import type { Problem } from '#core/problem'

/** The document as text, checked as it is written: a fault is underlined at its line and column. */
const source = defineModel<string>({ required: true })
const props = defineProps<{ problem: Problem | null; readonly: boolean }>()
const host = useTemplateRef<HTMLElement>('host')
let view: EditorView | null = null

const faults = linter(
  (v): Diagnostic[] => {
    const at = props.problem?.details as { line?: number; column?: number } | undefined
    if (!props.problem || !at?.line) return []
    const line = v.state.doc.line(Math.min(at.line, v.state.doc.lines))
    const from = Math.min(line.to, line.from + Math.max(0, (at.column ?? 1) - 1))
    return [{ from, to: Math.max(from, line.to), severity: 'error', message: props.problem.message }]
  },
  { delay: 200 },
)

onMounted(() => {
  view = new EditorView({
    parent: host.value!,
    state: EditorState.create({
      doc: source.value,
      extensions: [
        basicSetup,
        yaml(),
        faults,
        lintGutter(),
        EditorState.readOnly.of(props.readonly),
        EditorView.contentAttributes.of({ 'aria-label': 'The document as text' }),
        EditorView.updateListener.of((u) => {
          if (u.docChanged) source.value = u.state.doc.toString()
        }),
      ],
    }),
  })
})
onBeforeUnmount(() => view?.destroy())
watch(source, (text) => {
  if (view && view.state.doc.toString() !== text)
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } })
})
/** Goes to the line of the fault. */
function show(line: number) {
  if (!view) return
  const at = view.state.doc.line(Math.min(line, view.state.doc.lines)).from
  view.dispatch({ selection: { anchor: at }, effects: EditorView.scrollIntoView(at, { y: 'center' }) })
  view.focus()
}
defineExpose({ show })
</script>

<template>
  <div ref="host" class="editor" />
</template>

<style scoped>
.editor {
  border: 1px solid var(--hair);
  border-radius: var(--corner);
  background: var(--card);
  overflow: hidden;
  height: 100%;
}
.editor :deep(.cm-editor) {
  height: 100%;
  font-size: 0.9375rem;
}
.editor :deep(.cm-scroller) {
  font-family: var(--mono);
  line-height: 1.5;
}
.editor :deep(.cm-gutters) {
  background: var(--wash);
  color: var(--muted);
  border-right: 1px solid var(--hair);
}
.editor :deep(.cm-content) {
  color: var(--ink);
  caret-color: var(--ink);
}
.editor :deep(.cm-cursor) {
  border-left-color: var(--ink);
}
.editor :deep(.cm-activeLine),
.editor :deep(.cm-activeLineGutter) {
  background: color-mix(in srgb, var(--line) 10%, transparent);
}
.editor :deep(.cm-selectionBackground) {
  background: color-mix(in srgb, var(--line) 28%, transparent) !important;
}
.editor :deep(.cm-content span) {
  color: inherit;
}
.editor :deep(.cm-tooltip) {
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--hair);
}
</style>
