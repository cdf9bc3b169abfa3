/**
 * Everything that screens ask of the server, by method and path: what is sent and what is answered. The server's tables and the
 * client of the app are typed by it, so that neither can say anything else than the other.
 */
import type { ArrivingOperations } from './arriving'
import type { BroadcastsOperations } from './broadcasts'
import type { CoursesOperations } from './courses'
import type { EmailsOperations } from './emails'
import type { HouseOperations } from './house'
import type { MarksOperations } from './marks'
import type { OffersOperations } from './offers'
import type { PeopleOperations } from './people'
import type { RulesOperations } from './rules'
import type { SegmentsOperations } from './segments'
import type { SendersOperations } from './senders'
import type { SendingOperations } from './sending'

export interface AllOperations extends ArrivingOperations, BroadcastsOperations, CoursesOperations, EmailsOperations, HouseOperations,
  MarksOperations, OffersOperations, PeopleOperations, RulesOperations, SegmentsOperations, SendersOperations, SendingOperations {}

/** `GET /courses/:id` */
export type OperationName = keyof AllOperations

/** Those of a method, or with such a path. */
export type Those<Pattern extends string> = Extract<OperationName, Pattern>
