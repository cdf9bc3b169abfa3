/** What someone gets from us, to be chosen. Looking changes nothing. */
import { defineEventHandler, getQuery } from 'h3'
import { hideMiddle, renderChoices } from '#core/page/render'
import { choicesOf, readChoicesToken } from '#usecases/arrive/leave'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, houseAt, page, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const choices = choicesOf(house, readChoicesToken(house, tokenOf(event)))
    const done = getQuery(event).done === '1' ? 'Done. Nothing more of that will be sent.' : undefined
    return page(event, renderChoices({ ...publicFace(house), files: FILES, action: pathAt(event, `/m/${tokenOf(event)}`), ...choices, address: hideMiddle(choices.address), done }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
