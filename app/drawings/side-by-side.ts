/**
 * Places of marks along a row, moved as little as needed so that none covers another: those that are too
 * close stand side by side around where they belong, within the row.
 *
 * @param wanted px, in any order
 * @param pitch px from one to the next
 * @returns px, in the order given
 */
export function sideBySide(wanted: readonly number[], pitch: number, from: number, to: number): number[] {
  const order = wanted.map((_x, i) => i).sort((a, b) => wanted[a]! - wanted[b]! || a - b)
  // Marks that touch are one cluster, which stands around the mean of where its marks belong.
  const clusters: { sum: number; marks: number[] }[] = []
  const left = ({ sum, marks }: (typeof clusters)[number]) => {
    const width = (marks.length - 1) * pitch
    return Math.max(from, Math.min(to - width, sum / marks.length - width / 2))
  }
  for (const i of order) {
    clusters.push({ sum: wanted[i]!, marks: [i] })
    for (let n = clusters.length; n > 1; n--) {
      const [before, last] = [clusters[n - 2]!, clusters[n - 1]!]
      if (left(before) + before.marks.length * pitch <= left(last)) break
      clusters.splice(n - 2, 2, { sum: before.sum + last.sum, marks: [...before.marks, ...last.marks] })
    }
  }
  const out = [...wanted]
  for (const c of clusters) c.marks.forEach((i, k) => (out[i] = left(c) + k * pitch))
  return out
}
