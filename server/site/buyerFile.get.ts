/** What a buyer has bought, to be kept. */
import { defineEventHandler, getRouterParam } from 'h3'
import { buyersFile } from '#usecases/offers/buyer'
import { contextAt, tokenOf, troublePage } from './page'
import { sendFile } from './sendFile'

export default defineEventHandler((event) => {
  try {
    return sendFile(event, buyersFile(contextAt(event), tokenOf(event), Number(getRouterParam(event, 'purchase'))))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
