import { a4, tiledOn, unitMmAt } from '../src/print/life-size.ts'

test('a piece of eight times the weight is twice as long', () => {
  expect(unitMmAt({ unitMm: 0.93, atKg: 1 }, 8)).toBeCloseTo(1.86, 10)
  expect(unitMmAt({ unitMm: 1, atKg: 2 }, 2)).toBe(1)
  expect(() => unitMmAt({ unitMm: 1, atKg: 2 }, 0)).toThrow('above nothing')
})

test.each([
  [180, 270],
  [520, 362],
  [277, 190],
  [1200, 40],
  [830, 578],
])('the sheets of paper for %d × %d mm cover all of it, each laid on the next by the overlap, and no sheet is spare', (width, height) => {
  const { tiles } = tiledOn(width, height, a4)
  const right = Math.max(...tiles.map(({ leftMm, widthMm }) => leftMm + widthMm))
  const bottom = Math.max(...tiles.map(({ topMm, heightMm }) => topMm + heightMm))
  expect(right).toBeGreaterThanOrEqual(width)
  expect(bottom).toBeGreaterThanOrEqual(height)
  for (const one of tiles) {
    expect(one.leftMm).toBeLessThan(width)
    expect(one.topMm).toBeLessThan(height)
    const beside = tiles.find(({ row, column }) => row === one.row && column === one.column + 1)
    if (beside) expect(one.leftMm + one.widthMm - beside.leftMm).toBe(a4.overlapMm)
  }
})

test('paper is laid the way that takes fewest sheets', () => {
  expect(tiledOn(277, 190, a4)).toMatchObject({ isSideways: true, tiles: [{ number: 1 }] })
  expect(tiledOn(190, 277, a4)).toMatchObject({ isSideways: false, tiles: [{ number: 1 }] })
  expect(() => tiledOn(0, 10, a4)).toThrow('above nothing')
})
