/** The areas of the application, as the wall has them. */
import type { FrameView, Mode } from '#core/views/frame'

export interface Area { to: string, name: string, count?: keyof FrameView['counts'], only?: Mode }

export const AREAS: { name: string | null, entries: Area[] }[] = [
  { name: null, entries: [{ to: '/', name: 'Today' }, { to: '/to-dos', name: 'To-dos', count: 'toDos' }] },
  { name: 'Arrive', entries: [{ to: '/pages', name: 'Opt-in pages', count: 'pages' }, { to: '/offers', name: 'Offers', count: 'offers' }] },
  { name: 'Know', entries: [
    { to: '/subscribers', name: 'Subscribers', count: 'subscribers' }, { to: '/segments', name: 'Segments', count: 'segments' },
    { to: '/tags-and-lists', name: 'Tags and lists', count: 'tagsAndLists' }, { to: '/links', name: 'Links', count: 'links' },
    { to: '/house-rules', name: 'House rules', count: 'houseRules' },
  ] },
  { name: 'Deliver', entries: [
    { to: '/courses', name: 'Courses', count: 'courses' },
    { to: '/broadcasts', name: 'Broadcasts', count: 'broadcasts' }, { to: '/email-parts', name: 'Email parts' },
    { to: '/calendar', name: 'Coming days' },
    { to: '/engine', name: 'Engine room' }, { to: '/mailbox', name: 'Practice mailbox', only: 'practice' },
  ] },
]
