/** Formulas of the unsteady inlet. */
export const WAVE_FORMULAS = {
  helmholtz: {
    title: 'Runner and cylinder as a bottle',
    tex: String.raw`N_H = \frac{60\,\Delta}{580^\circ} \cdot \frac{c}{2\pi}\sqrt{\frac{\tfrac{\pi}{4} d^2}{(L + \delta)\,V_m}}, \quad V_m = \frac{V_h}{2} + \frac{V_h}{\varepsilon - 1}, \quad c = \sqrt{\gamma R T}`,
    source: 'after Engelman; the factor by the duration is fitted to the wave model (waves basis §7)',
  },
  quarterWave: {
    title: 'The runner’s quarter wave',
    tex: String.raw`N_q = \frac{120}{q} \cdot \frac{c}{4\,(L + \delta)}, \quad q = n + 0.35, \quad c = \sqrt{\gamma R T}`,
    source: 'the crest nearest to the hill; n is a whole number (waves basis §7)',
  },
  plenumTone: {
    title: 'Plenum and pipe as a bottle',
    tex: String.raw`N_P = \frac{120}{n} \cdot \frac{c}{2\pi}\sqrt{\frac{\tfrac{\pi}{4} d_p^2}{L_p\,(V + V_h/2)}}, \quad c = \sqrt{\gamma R T}`,
    source: 'waves basis §7',
  },
  waveRatio: {
    title: 'Filling of another inlet',
    tex: String.raw`\eta' = \eta \cdot \frac{W'}{W}`,
    source: 'ratio of the wave model on the car’s own filling (waves basis, head)',
  },
  runnerWith: {
    title: 'Runner with another throttle in it',
    tex: String.raw`L' = L + \ell - \ell_s, \quad \frac{N'}{N} \approx \frac{L}{L'}`,
    source: 'a quarter wave’s speed goes with one over the length (waves basis §7)',
  },
  calibration: {
    title: 'Figure fitted to the measured curve',
    tex: String.raw`\hat\theta = \arg\min_{\theta} \sum_i \left( \ln \eta_i - \ln W_i(\theta) - \ell \right)^2`,
    source: 'Gauss–Newton, level ℓ free (How it computes, Waves in the inlet)',
  },
} as const;
