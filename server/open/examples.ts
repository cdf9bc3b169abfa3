/** Made-up examples for the document; a test holds them against what is described. */

const person = {
  id: 42, email: 'ada@example.com', firstName: 'Ada', status: 'active', zone: 'Europe/Lisbon', country: 'PT', source: 'api',
  createdAt: '2026-11-24T08:00:00.000Z', consentAt: '2026-11-24T08:00:00.000Z', score: 12.5,
  tags: [{ id: 7, name: 'likes: coptic', since: '2026-11-24T08:00:00.000Z' }], lists: [{ id: 3, name: 'letters', joined: true }],
  fields: { 'Favourite binding': 'coptic' },
}

export const EXAMPLES = {
  person,
  people: { people: [person], next: null },
  newPerson: {
    email: 'ada@example.com', firstName: 'Ada', zone: 'Europe/Lisbon', country: 'PT', fields: { 'Favourite binding': 'coptic' },
    tagIds: [7], listIds: [3],
    consent: { origin: 'the sign-up sheet at the spring fair', wording: 'Yes, send me letters about bookbinding.' },
  },
  event: { id: 1204, kind: 'got-tag', at: '2026-11-24T08:00:00.000Z', personId: 42, causeId: 1203, says: 'got the tag likes: coptic' },
  purchase: {
    id: 5, order: 'fair-118', personId: 42, offer: { id: 2, name: 'The paper sampler', slug: 'paper-sampler' }, currency: 'EUR',
    boughtAt: '2026-11-24T08:00:00.000Z', isOver: false, paidUntilAt: null, paid: 4900, refunded: 0,
    payments: [{ payment: 'fair-118-1', at: '2026-11-24T08:00:00.000Z', amount: 4900, refunded: 0, disputed: false }],
  },
  payment: { type: 'payment.made', timestamp: '2026-11-24T08:00:00Z', data: {
    order: 'fair-118', payment: 'fair-118-1', amount: 4900, currency: 'EUR', offer: 'paper-sampler', email: 'ada@example.com',
    first_name: 'Ada',
  } },
  tags: { tags: [{ id: 7, name: 'likes: coptic', note: 'Clicked a link about coptic binding.', group: 'interests', people: 31 }] },
  lists: { lists: [{ id: 3, name: 'letters', publicName: 'Letters from the workshop', description: 'About once a month.', people: 120 }] },
  courses: { courses: [{ id: 1, name: 'Your first book', running: true, listId: 3 }] },
}
