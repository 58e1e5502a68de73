/** What some reads find, asked all at once: none of them waits for the answer of another. */
export async function together<T extends object>(asked: { [K in keyof T]: T[K] | Promise<T[K]> }): Promise<T> {
  const keys = Object.keys(asked) as (keyof T & string)[]
  const found = await Promise.all(keys.map((key) => asked[key]))
  return Object.fromEntries(keys.map((key, i) => [key, found[i]])) as T
}
