/** What is known here of the links and fields that house rules name. */
import type { Fitting } from '#core/rules/fits'
import type { Database } from '#data/connection'
import { findField } from '#data/fields'
import { findLink } from '#data/links'

export const fittingOf = (db: Database): Fitting => ({ urlOf: id => findLink(db, id)?.url, kindOf: id => findField(db, id)?.kind })
