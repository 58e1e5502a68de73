/** Some of a number of units, by their numbers: a sentence names the first of thousands. */
export interface SomeUnits {
  all: number
  numbers: number[]
}

export const someOf = (units: readonly { number: number }[], most: number): SomeUnits => ({
  all: units.length,
  numbers: units.slice(0, most).map((u) => u.number),
})
