import { chiSquaredQuantile } from './chi-squared'

test.each([
  [0.975, 2, 7.377758908227871],
  [0.025, 2, 0.050635615968579795],
  [0.975, 4, 11.143286781877796],
  [0.025, 8, 2.1797307472526497],
  [0.975, 10, 20.4831773508075],
  [0.5, 1, 0.454936423119572],
  [0.975, 200, 241.0578955],
])('the %p quantile with %p degrees of freedom', (p, dof, value) =>
  expect(chiSquaredQuantile(p, dof) / value).toBeCloseTo(1, 8),
)

test('with two degrees of freedom it is −2 ln(1 − p)', () => {
  for (const p of [1e-6, 0.1, 0.3, 0.5, 0.9, 0.999])
    expect(chiSquaredQuantile(p, 2) / (-2 * Math.log1p(-p))).toBeCloseTo(1, 10)
})

test('it rises with p and with the degrees of freedom, up to thousands', () => {
  let before = 0
  for (const dof of [1, 2, 3, 10, 100, 1000, 20_000]) {
    expect(chiSquaredQuantile(0.025, dof)).toBeLessThan(chiSquaredQuantile(0.975, dof))
    expect(chiSquaredQuantile(0.975, dof)).toBeGreaterThan(before)
    before = chiSquaredQuantile(0.975, dof)
  }
})
