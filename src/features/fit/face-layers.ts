/** What can be shown of a throttle's face, one over the other. */
export const LAYERS = ['manifold', 'gasket', 'adapter', 'unit', 'lip'] as const;
export type Layer = (typeof LAYERS)[number];
export const LAYER_WORDS: Readonly<Record<Layer, string>> = {
  manifold: 'manifold',
  gasket: 'gasket',
  adapter: 'adapter plate',
  unit: 'throttle',
  lip: 'step',
};
