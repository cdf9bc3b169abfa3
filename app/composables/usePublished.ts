/** Something with a draft that saves itself and is shown to the public by an explicit step: an opt-in page, an offer. */
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { ApiProblem } from './useApi'
import { useDraft } from './useDraft'
import { useUndo } from '~/stores/undo'
import { useFresh } from './useFresh'

interface Typed<Content> { name: string, slug: string, draft: Content }

interface Published<Content> extends Typed<Content> {
  revision: string, missing: { field: string, problem: string }[], versionNumber: number | null,
}

/** `goTo` brings what is missing into view, before the screen scrolls to it. `takeDown` says what taking down means. */
export function usePublished<Content, View extends Published<Content>>(how: {
  ask(): Promise<View>
  save(typed: Typed<Content>, ifMatch?: string): Promise<View>
  publish(ifMatch?: string): Promise<View>
  takeDown(): Promise<View>
  /** Shows another version again; null shows none. */
  show(change: { from: number | null, to: number | null }): Promise<View>
}, { goTo, published, takenDown, except, takeDown: down }: {
  goTo(field: string): void
  published: string
  takenDown: string
  /** What undoing does not bring back. */
  except?: string
  takeDown: { header: string, message: string }
}) {
  const toast = useToast()
  const confirm = useConfirm()
  const undo = useUndo()
  const typed = ref(null) as Ref<Typed<Content> | null>
  const { data: view, problem: notThere, load } = useFresh(() => how.ask())
  watch(view, (first) => {
    if (first === null || typed.value) return
    const { name, slug, draft, revision } = first
    typed.value = { name, slug, draft }
    saving.revision.value = revision
  })
  const saving = useDraft(typed, async (value, ifMatch) => {
    const saved = await how.save(value, ifMatch)
    view.value = saved
    return saved.revision
  })

  const asked = ref(false)
  const missing = computed(() => asked.value ? view.value?.missing ?? [] : [])
  /** What is wrong with a field: the server's word at once, what is missing only after publishing was tried. */
  const wrong = (field: string) => saving.problem.value?.of(field) ?? saving.problem.value?.of(`draft.${field}`)
    ?? missing.value.find(entry => entry.field === field)?.problem

  function didShow(said: string, before: number | null, now: number | null) {
    undo.did({ said, ...except && { except }, undo: () => how.show({ from: now, to: before }) })
  }

  async function publish() {
    asked.value = true
    if (!(await saving.flush()) || view.value!.missing.length > 0) {
      const [first] = view.value!.missing
      if (!first) return
      goTo(first.field)
      // What is missing may lie below the fold: go there.
      await nextTick()
      document.querySelector('.field .problem, .p-invalid')?.closest('.field')?.scrollIntoView({ block: 'center' })
      return
    }
    const before = view.value!.versionNumber
    try {
      const now = await how.publish(saving.revision.value)
      view.value = now
      asked.value = false
      didShow(published.replace('N', String(now.versionNumber)), before, now.versionNumber)
    }
    catch (error) {
      if (error instanceof ApiProblem && error.status === 412) saving.changedElsewhere()
      toast.add({
        severity: 'error', summary: 'Not published', detail: error instanceof ApiProblem ? error.message : String(error), life: 8000,
      })
    }
  }

  function takeDown() {
    confirm.require({
      ...down, acceptProps: { label: 'Take it down', severity: 'danger' },
      rejectProps: { label: 'Keep it published', severity: 'secondary' },
      accept: async () => {
        const before = view.value!.versionNumber
        view.value = await how.takeDown()
        didShow(takenDown, before, null)
      },
    })
  }

  /** Something else has changed it on the server, after what is typed here was saved. */
  async function afresh() {
    await load()
    const { name, slug, draft, revision } = view.value!
    saving.revision.value = revision
    typed.value = { name, slug, draft }
  }

  return { afresh, view, typed, saving, notThere, load, missing, wrong, publish, takeDown }
}
