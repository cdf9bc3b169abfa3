/** Who comes to Saltmarsh Bindery: invented people, from a seed, so that the demo is the same wherever it is made. */
import { diceOf } from '#core/dice'
import { NO_TOUCH, type Touch } from '#core/page/touch'
import type { Instant } from '#core/time/zone'
import { DAY, HOUR, MINUTE } from '#core/time/zone'
import { PAGES } from './pages'

export interface Visitor {
  at: Instant
  slug: string
  firstName: string
  address: string
  zone: string
  /** 0 to 100. */
  keenness: number
  touch: Touch
  /** What they chose there, by the id of what asked. */
  answers: Record<string, string[]>
  /** Others who came the same way and left again without a word. */
  lookers: number
}

const FIRST = ('Ada Adnan Agnes Akua Alba Alma Amara Anders Aino Beatriz Bela Bram Camila Cato Chidi Ciara Clara Dalia Daniel Dora Edda Eero Eilidh Elif Emeka Enzo Esme Fatou Felix Fenna Filipa Freya Gael Gita Greta Gwen '
  + 'Hana Hugo Ida Ilse Imani Inga Iris Ivo Jana Joao Jonas Judith Kaia Karim Keiko Kwame Lars Leila Lena Liv Lucia Luka Mads Maeve Maia Malik Marta Mateo Mei Milan Mira Nadia Nils Noor Nora Odile Ola Olga Oona Oscar Paavo '
  + 'Paloma Pia Priya Quentin Rafael Rania Rosa Runa Saga Samir Selma Signe Sofia Stellan Sunniva Tadeo Talia Tariq Teresa Thora Tilda Tove Uma Ursula Vera Vida Wanda Wim Yara Yusuf Zelda Zora Zofia').split(' ')
const LAST = ('Abreu Adeyemi Alder Andrade Arendt Aubry Baker Barros Becker Bjork Bloom Boateng Brandt Cardoso Castell Cho Cole Costa Dahl Delgado Diallo Duarte Eklund Farkas Fell Fontaine Frost Garnier Gomes Gray Haas Halvorsen Hart '
  + 'Holm Ito Jansen Kaplan Keller Kiss Klein Lacey Laine Leroy Lund Marsh Mendes Moreau Moss Nakamura Nair Neves Novak Okafor Olsen Osei Park Peeters Pinto Quist Rao Reis Rowe Ruiz Sato Silva Sorel Stone Tamm Thorne Torres Vale '
  + 'Varga Vidal Visser Voss Wade West Winter Wolff Yilmaz Young Zimmer').split(' ')
const DOMAINS = ['example.com', 'example.com', 'example.org', 'example.net', 'post.example.com', 'mail.example.org']
/** Where they live, the nearer the more; the empty one has a browser that does not tell. */
const ZONES = [
  ...Array<string>(9).fill('Europe/Lisbon'), ...Array<string>(4).fill('Europe/London'), 'Europe/Berlin', 'Europe/Berlin', 'Europe/Paris',
  'Europe/Madrid', 'America/New_York', 'America/New_York', 'America/Sao_Paulo', 'America/Sao_Paulo', 'Asia/Kathmandu', 'Asia/Tokyo',
  'Pacific/Auckland', '', '',
]

/** Visitors between two instants, in order of time. A podcast speaks of the bindery two thirds of the way through. */
export function visitorsBetween(from: Instant, to: Instant, count: number): Visitor[] {
  const [dice, ways, tastes] = [diceOf(0x5a17), diceOf(0x0d00), diceOf(0x7a57e)]
  const pick = <Item>(items: readonly Item[]) => items[Math.floor(dice() * items.length)]!
  const taken = new Set<string>()
  const podcastAt = from + (to - from) * 2 / 3
  return Array.from({ length: count }, (_, n): Visitor => {
    const first = pick(FIRST)
    const last = pick(LAST)
    let address = `${first}.${last}@${pick(DOMAINS)}`.toLowerCase()
    if (taken.has(address)) address = address.replace('@', `.${n}@`)
    taken.add(address)
    const heard = dice() < 0.22
    const at = heard ? podcastAt - Math.log(1 - dice()) * 30 * HOUR : evening(from + dice() * (to - from), dice())
    const way = dice()
    // Who is to be refused has to be written to at once.
    const slug = oddOnes[n] ? PAGES.course : way < 0.6 ? PAGES.kit : way < 0.84 ? PAGES.course : PAGES.chooser
    // On the kit's page the name is asked for and not wanted: some leave it out.
    const named = slug === PAGES.course || dice() < 0.8
    return {
      at: Math.min(Math.max(Math.round(at), from), to - MINUTE), slug, address: oddOnes[n] ?? address, firstName: named ? first : '',
      zone: pick(ZONES),
      keenness: Math.round(100 * (heard ? Math.sqrt(dice()) : dice())),
      answers: answersOn(slug, tastes),
      ...cameBy(heard, ways),
    }
  }).sort((a, b) => a.at - b.at)
}

function answersOn(slug: string, dice: () => number): Visitor['answers'] {
  if (slug === PAGES.kit) return kitAnswers(dice)
  const one = () => [`o${1 + Math.floor(dice() * 3)}`]
  return slug === PAGES.chooser ? { a1: one(), a2: one() } : {}
}

/** Most would like to make something in particular, many want the letters, few say how many books they have made. */
function kitAnswers(dice: () => number): Visitor['answers'] {
  return {
    a1: ['o1', 'o2', 'o3'].filter(() => dice() < 0.4),
    a2: dice() < 0.35 ? [String(Math.floor(dice() * dice() * 9))] : [],
    b1: dice() < 0.7 ? ['yes'] : [],
  }
}

/** The ways to the bindery: how common each is, and how many of a hundred who come by it opt in. */
const WAYS: { touch: Touch, share: number, percent: number }[] = [
  { touch: NO_TOUCH, share: 0.3, percent: 24 },
  { touch: { ...NO_TOUCH, named: 'workshop-flyer' }, share: 0.14, percent: 52 },
  { touch: { ...NO_TOUCH, referrer: 'papercraft.example.org' }, share: 0.3, percent: 31 },
  { touch: { ...NO_TOUCH, referrer: 'forum.example.net' }, share: 0.12, percent: 12 },
  { touch: { ...NO_TOUCH, source: 'guild letter', medium: 'email', campaign: 'autumn' }, share: 0.14, percent: 44 },
]
const PODCAST = { touch: { ...NO_TOUCH, named: 'paper-podcast' }, percent: 63 }

function cameBy(heard: boolean, dice: () => number): Pick<Visitor, 'touch' | 'lookers'> {
  const roll = dice()
  let sum = 0
  const { touch, percent } = heard ? PODCAST : WAYS.find(way => (sum += way.share) > roll) ?? WAYS[0]!
  // As many as it takes until one in so many opts in.
  return { touch, lookers: Math.floor(Math.log(1 - dice()) / Math.log(1 - percent / 100)) }
}

/** Two addresses that no server takes, to see what that looks like. */
const oddOnes: Record<number, string> = { 61: 'refused@example.net', 233: 'refused@post.example.com' }

/** Most people find such things in the evening. */
function evening(at: Instant, roll: number): Instant {
  return roll < 0.5 ? Math.floor(at / DAY) * DAY + 18 * HOUR + (at % (4 * HOUR)) : at
}
