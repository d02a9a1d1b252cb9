import type { LabelSize } from '@fleam/contract/labels'

/** Sizes that labels come in, in words. */
export const labelSizes: { value: LabelSize; label: string }[] = [
  { value: '62x29', label: '62 × 29 mm' },
  { value: '100x50', label: '100 × 50 mm' },
  { value: 'a4-24', label: 'A4, 24 a sheet' },
]
