/** Formulas of what dyno, strip and road tell. */
export const TEST_FORMULAS = {
  stripFactor: {
    title: 'Factor of the air',
    tex: String.raw`x = \frac{990}{p_d}\sqrt{\frac{t+273}{298}},\quad f = 1.18x - 0.18\ (\text{belt: } x,\ \text{turbo: } x^{0.3})`,
    source: 'J1349-like for an engine without boost; a belt-driven blower has no mechanical term; a held boost hides most of the air',
  },
  powerBySpeed: {
    title: 'Change of power',
    tex: String.raw`\frac{\Delta P}{P} = 3\,\frac{\Delta V}{V}`,
    source: 'speed goes with the cube root of power',
  },
  powerByTime: {
    title: 'Change of power',
    tex: String.raw`\frac{\Delta P}{P} = -3\,\frac{\Delta t}{t}`,
    source: 'time goes with the cube root of power',
  },
  predictedAtStrip: {
    title: 'Predicted at the strip',
    tex: String.raw`\Delta y = \pm\tfrac13\, g\, y`,
    source: 'a third of the change of power: up for speed, down for time',
  },
  roadFlat: {
    title: 'The run on the flat',
    tex: String.raw`t_0 = t\;\frac{\tfrac12\Delta v^2}{\tfrac12\Delta v^2 + g\,\Delta h}`,
    source: 'the same work a second without the hill',
  },
  roadError: {
    title: 'What the road could have done',
    tex: String.raw`e = \sqrt{e_h^2 + e_w^2 + e_r^2 + e_s^2}`,
    source: 'errors that know nothing of one another',
  },
  pooled: {
    title: 'Jobs together',
    tex: String.raw`\bar d = \frac{\sum d_i/(s_i^2+\tau^2)}{\sum 1/(s_i^2+\tau^2)}`,
    source: 'random effects (DerSimonian and Laird), interval by Student’s t',
  },
  meanDifference: {
    title: 'Mean difference over a stretch',
    tex: String.raw`\bar d = 100\,\frac{\overline{B - A}}{\overline{A}}`,
    source: 'over the 25 rpm grid points of that stretch',
  },
  mixtureInterval: {
    title: 'Interval of the effect',
    tex: String.raw`y = \mu + d\,z + \text{day} + \text{stay} + \text{drift} + \text{warm-up} + \text{air} + e,\quad d \sim \textstyle\sum_k w_k\, N(m_k, s_k^2)`,
    source: 'stays and days as random, their sizes on a grid, any one run perhaps gone wrong; 2.5 and 97.5 % points of the mixture',
  },
} as const;
