/** The stops of a job in the order the questions come up. */
export const STOPS = [
  { key: 'car', title: 'Car' },
  { key: 'air', title: 'Air' },
  { key: 'pick', title: 'Pick' },
  { key: 'fit', title: 'Fit' },
  { key: 'install', title: 'Install' },
  { key: 'test', title: 'Test' },
  { key: 'verdict', title: 'Verdict' },
] as const;
export type StopKey = (typeof STOPS)[number]['key'];
