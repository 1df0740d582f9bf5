/** How much of the chosen lane the bench shows, and the groups in which its settings stand there. */
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

/** Which steps are hits, whether they sound, when, what is played, and with what sound. */
export const GROUPS = ['steps', 'luck', 'time', 'notes', 'sound'] as const
