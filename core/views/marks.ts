/** Lists and tags, with how many people and where they are used. */

export interface Use { kind: 'page' | 'course', id: number, name: string, how: string }

export interface ListLine { id: number, name: string, publicName: string, description: string, people: number, takesEverybody: boolean, uses: Use[] }

export interface TagLine { id: number, name: string, note: string, people: number, uses: Use[] }
