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

/** The size so many larger (negative: smaller) than one; the largest beyond it, null below the smallest: folded. */
export const sizeBeside = (size: BenchSize, by: number): BenchSize | null => {
  const names = BENCH_SIZES.map(([name]) => name)
  return names[Math.min(names.length - 1, names.indexOf(size) + by)] ?? null
}
