/**
 * The checker of what comes in, which says what is wrong in words for people; its own sentences are for programmers. These stand in their
 * place, and not among the settings of a check, so that a schema's own go before them, also one for whatever is wrong (`'*'`).
 */
import joi, { type Root } from 'joi'

const plain: Root = joi.extend(
  {
    type: 'string', base: joi.string(),
    messages: {
      'string.empty': 'Type something here.', 'string.min': 'At least {#limit} letters.',
      'string.max': 'At most {#limit} letters fit here.',
    },
  },
  {
    type: 'number', base: joi.number(),
    messages: {
      'number.base': 'Type a number.', 'number.integer': 'Type a whole number.', 'number.min': 'At least {#limit}.',
      'number.max': 'At most {#limit}.', 'number.unsafe': 'That number is too large.',
    },
  },
  { type: 'array', base: joi.array(), messages: { 'array.max': 'At most {#limit} fit here.' } },
)
export default plain
