/** The formulas the screens can show, written once. TeX, what it gives, and where it comes from. */
export const FORMULAS = {
  vapour: {
    title: 'Water vapour in the air',
    tex: String.raw`e = \varphi \cdot 610.94\, \exp\!\frac{17.625\,t}{t + 243.04}`,
    source: 'Alduchov & Eskridge 1996',
  },
  density: { title: 'Density of the air', tex: String.raw`\rho = \frac{p - e}{R_d T} + \frac{e}{R_v T}`, source: 'gas law for moist air' },
  swept: { title: 'Swept volume rate', tex: String.raw`\dot V = V_d\, N / 120`, source: 'four-stroke: one filling every two turns' },
  demand: {
    title: 'Air the engine asks for',
    tex: String.raw`\dot m = \eta_a\, \dot V\, \rho`,
    source: 'displacement school; the efficiency is referred to ambient air',
  },
  gross: { title: 'Bore area', tex: String.raw`A_g = \tfrac{\pi}{4} D^2`, source: 'geometry' },
  blocked: {
    title: 'Area the shaft hides',
    tex: String.raw`A_b = 2\left(R^2 \arcsin\tfrac{d}{2R} + \tfrac{d}{2}\sqrt{R^2 - \tfrac{d^2}{4}}\right)`,
    source: 'strip of a circle',
  },
  net: { title: 'Area left for the air', tex: String.raw`A_n = A_g - A_b`, source: 'geometry' },
  head: {
    title: 'Dynamic head',
    tex: String.raw`q = p_0 - p_0\left(1 + \tfrac{\gamma-1}{2} M^2\right)^{-\gamma/(\gamma-1)}`,
    source: 'one-dimensional compressible flow; M from the flow through the area',
  },
  loss: { title: 'Loss of a part', tex: String.raw`\Delta p = K\, q`, source: 'loss coefficient on the head in its smaller area' },
  exit: { title: 'Head lost in the plenum', tex: String.raw`\Delta p = q`, source: 'a jet into a large volume loses its whole head' },
  sum: { title: 'Added up', tex: String.raw`\Delta p = \sum_i \Delta p_i`, source: 'ladder of losses' },
  plenum: { title: 'Pressure in the plenum', tex: String.raw`p_m = p_\mathrm{amb} - \sum_i \Delta p_i`, source: 'ladder of losses' },
  limitFlow: {
    title: 'Flow at the allowed loss',
    tex: String.raw`\dot m:\ \Delta p_\mathrm{throttle}(\dot m) = \Delta p_\mathrm{allowed}`,
    source: 'bracketed root of the ladder',
  },
  givesOut: {
    title: 'Where it gives out',
    tex: String.raw`N:\ \dot m_\mathrm{asks}(N) = \dot m_\mathrm{passes}`,
    source: 'first crossing on the demand curve',
  },
  etaManifold: {
    title: 'Efficiency referred to the manifold',
    tex: String.raw`\eta_m = \frac{\dot m\, R_d\, T_m}{\dot V\, p_m}`,
    source: 'held fixed while the throttle changes, but for the residual gas',
  },
  residual: {
    title: 'Residual gas',
    tex: String.raw`\varphi = \frac{r_c - (p_e/p_m)^{1/\gamma}}{r_c - 1}`,
    source: 'burnt gas left in the clearance volume',
  },
  balance: {
    title: 'Flow with the other unit',
    tex: String.raw`\dot m = \eta_m \dot V \frac{p_m(\dot m)}{R_d T_m}`,
    source: 'bracketed root: engine and ladder agree',
  },
  refPower: {
    title: 'Power of the engine as it is',
    tex: String.raw`P = \frac{\dot m}{\mathrm{BSFC} \cdot \mathrm{AFR}}`,
    source: 'power school',
  },
  friction: {
    title: 'Friction',
    tex: String.raw`P_f = 10^5\left(0.97 + 0.15\tfrac{N}{1000} + 0.05\left(\tfrac{N}{1000}\right)^2\right)\dot V`,
    source: 'Heywood, eq. 13.6',
  },
  power: {
    title: 'Power with the other unit',
    tex: String.raw`P' = (P + P_f)\frac{\dot m'}{\dot m} - P_f + (p_m' - p_m)\dot V`,
    source: 'indicated power goes with the air; friction stays; less pumping',
  },
  gain: { title: 'Gain', tex: String.raw`g = 100\left(\frac{P'}{P} - 1\right)`, source: 'percent of the stock figure' },
  idealGain: {
    title: 'Left on the table',
    tex: String.raw`g = 100\left(\frac{P_\mathrm{ideal}}{P} - 1\right)`,
    source: 'same path, no throttle in it, the opening as wide as the part ahead',
  },
  tipIn: {
    title: 'First tenth of the pedal',
    tex: String.raw`r = \frac{A(\psi_{10})}{A_\mathrm{stock}(\psi_{10})},\quad \psi_{10} = \psi_0 + 0.1\,(90° - \psi_0)`,
    source: 'Harrington & Bolt; Heywood eq. 7.18',
  },
  leak: {
    title: 'Leak past the shut blade',
    tex: String.raw`\dot m_L = C_d\, U s\, \frac{p_0}{\sqrt{R_d T_0}} \cdot 0.6847`,
    source: 'sonic nozzle round the edge of length U with clearance s',
  },
  idleAir: {
    title: 'Air the idle needs',
    tex: String.raw`\dot m_i = \frac{P_f(N) + P_\mathrm{acc}}{\eta_\mathrm{id}\, \mathrm{LHV} / \mathrm{AFR}}`,
    source: 'friction and accessories at 1 kW, 25 % indicated efficiency',
  },
  correction: {
    title: 'Weather correction',
    tex: String.raw`P_c = P \cdot \frac{f_\mathrm{to}}{f_\mathrm{from}}`,
    source: 'the file’s own correction is undone first',
  },
  sae: {
    title: 'SAE J1349',
    tex: String.raw`f = 1.180\,\frac{990}{p_d}\sqrt{\frac{t+273}{298}} - 0.180`,
    source: 'dry pressure in hPa, °C',
  },
  meanDifference: {
    title: 'Mean difference of a third',
    tex: String.raw`\bar d = 100\,\frac{\overline{B - A}}{\overline{A}}`,
    source: 'over the 25 rpm grid points of that third',
  },
  noise: {
    title: 'What noise alone can do',
    tex: String.raw`\pm\, k\, s \sqrt{\tfrac{1}{n_A} + \tfrac{1}{n_B}}`,
    source: 's: scatter of single runs; k = 1.96 assumed, Student’s t when measured',
  },
  lip: {
    title: 'Lip between bore and opening',
    tex: String.raw`A_\ell = \left|A_g - \tfrac{\pi}{4} d^2\right|`,
    source: 'geometry, both centred',
  },
  overhang: { title: 'Overhang all round', tex: String.raw`s = \tfrac{1}{2}(D - d)`, source: 'geometry, both centred' },
  price: { title: 'Cost of a gain', tex: String.raw`c = \frac{\text{price}}{P' - P}`, source: 'parts only' },
} as const;
export type FormulaId = keyof typeof FORMULAS;
