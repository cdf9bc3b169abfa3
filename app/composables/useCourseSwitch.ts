/** Stopping a course as a whole, resuming it, and deleting it. */
import { useConfirm } from 'primevue/useconfirm'
import { navigateTo } from '#imports'
import { sayPeople } from '#core/stats/say'
import { useEnding } from '~/stores/ending'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import { api } from './useApi'
import { useAttempt } from './useAttempt'

export function useCourseSwitch(id: number, of: {
  name: () => string, /** How many people are in it. */ inside: () => number, reload: () => Promise<void>, flush: () => Promise<boolean>
}) {
  const { busy, problem, attempt } = useAttempt()
  const confirmation = useConfirm()
  const ending = useEnding()
  const frame = useFrame()
  const undo = useUndo()

  const stopOrResume = (how: 'stop' | 'go-on') => attempt(async () => {
    await api(`POST /courses/:id/${how}`, { at: { id } })
    await of.reload()
    undo.did(how === 'stop'
      ? { said: 'The course is stopped.', undo: () => api('POST /courses/:id/go-on', { at: { id } }) }
      : {
        said: 'The course goes on.', undo: () => api('POST /courses/:id/stop', { at: { id } }),
        except: 'What was sent meanwhile stays sent.',
      })
  })
  const resume = () => stopOrResume('go-on')
  const stop = () => confirmation.require({
    header: `Stop ${of.name()}?`,
    message: `No emails go out and nobody joins until you resume. ${sayPeople(of.inside())} inside keep their place, and waiting times are paused.`,
    acceptLabel: 'Stop the course', rejectLabel: 'Keep it running', accept: () => void stopOrResume('stop'),
  })
  const remove = () => ending.ask({
    thing: { kind: 'course', id }, header: `Delete ${of.name()}?`, acceptLabel: 'Delete the course',
    message: of.inside() > 0
      ? `${sayPeople(of.inside())} inside will leave it and get no more of its emails. Sent emails stay in the histories.`
      : 'Nobody is inside. Sent emails stay in the histories.',
    accept: async () => {
      await of.flush()
      await api('DELETE /courses/:id', { at: { id } })
      await frame.changed()
      await navigateTo('/courses')
    },
  })

  return { busy, problem, stop, resume, remove }
}
