import type { Rule } from 'eslint'

export const longLines: Rule.RuleModule
