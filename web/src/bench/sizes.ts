/** How much of the chosen lane the bench shows. */
export const BENCH_SIZES = [
  ['small', 'The step under one hand, and throws'],
  ['medium', 'And every setting'],
  ['large', 'And its strips, to paint'],
] as const
export type BenchSize = (typeof BENCH_SIZES)[number][0]

export const nextSize = (size: BenchSize): BenchSize => {
  const names = BENCH_SIZES.map(([name]) => name)
  return names[(names.indexOf(size) + 1) % names.length] ?? 'medium'
}
