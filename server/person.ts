/** Who is at the bench: one person until there is a login. */
export const person = (): string => process.env.FRESH_COAT_PERSON ?? 'bench'
