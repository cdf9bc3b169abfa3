/** Yes, the new address is theirs. */
import { defineEventHandler, sendRedirect } from 'h3'
import { confirmAddress, readAddressToken } from '#usecases/arrive/choices'
import { houseAt, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    confirmAddress(house, readAddressToken(house, tokenOf(event)))
    return sendRedirect(event, pathAt(event, `/a/${tokenOf(event)}`), 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
