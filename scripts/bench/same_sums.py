"""The sizing sums of one car in plain vectorised numpy and scipy: a yardstick for speed and a second opinion on the figures.

Reads the case that same-sums.ts wrote, solves it, and prints one JSON object: times in ms and the largest differences.
Everything is solved at once over arrays; the flow that engine and intake agree on comes from scipy's vectorised secant.
"""
import json
import sys
import time

import numpy as np
from scipy.optimize import newton

GAMMA = 1.4
R = 287.058
PIPE, FILTER, NOTHING = 2, 3, 0
CHOKED = 1 / 1.728**2


def mach(X):
    """Mach number of x = M (1 + 0.2 M^2)^-3, by Newton."""
    x = np.sqrt(np.clip(X, 0, CHOKED * (1 - 1e-12)))
    M = x.copy()
    for _ in range(7):
        s = 1 + 0.2 * M * M
        f = M * s**-3 - x
        slope = s**-3 - 1.2 * M * M * s**-4
        M = np.clip(M - f / np.maximum(slope, 1e-9), 0, 1)
    return M


def head_share(X):
    M = mach(X)
    return np.where(X < CHOKED, 1 - (1 + 0.2 * M * M) ** -3.5, np.nan)


def viscosity(T):
    return 1.716e-5 * (T / 273.15) ** 1.5 * (383.55 / (T + 110.4))


class Paths:
    """Several paths of the same parts, side by side: figures as (rows, paths)."""

    def __init__(self, paths):
        f = np.array([p["figures"] for p in paths]).reshape(len(paths), -1, 8)
        self.names = paths[0]["rows"]
        self.kind = f[0, :, 0].astype(int)
        self.figure = [f[:, :, k].T for k in range(8)]
        self.exit = np.array([p["exitArea_m2"] for p in paths])

    def end_pressure(self, m, p0, T0, factors=None):
        """End pressure of flows (…, paths, rpm); `factors` multiply each row's loss, (rows, …, 1, 1)."""
        _, inv_a2, K0, factor, l_over_d, wall, reynolds, filter_c = self.figure
        flow2 = m * m * R * T0 / GAMMA
        p = np.full_like(m, p0)
        for row, kind in enumerate(self.kind):
            if kind == NOTHING:
                continue
            col = lambda a: a[row][:, None]
            if kind == FILTER:
                loss = col(filter_c) * m * m * R * T0 / p
            else:
                K = np.broadcast_to(col(K0), m.shape)
                if kind == PIPE:
                    re = m * col(reynolds) / viscosity(T0)
                    f = np.where(re < 2300, 64 / np.maximum(re, 1e-6), (-1.8 * np.log10(col(wall) + 6.9 / np.maximum(re, 1))) ** -2.0)
                    K = K + f * col(l_over_d)
                loss = K * p * head_share(flow2 * col(inv_a2) / (p * p))
            loss = loss * col(factor)
            if factors is not None:
                loss = loss * factors[row]
            p = p - loss
        if np.all(self.exit == 0):
            return p
        return p - p * head_share(flow2 / self.exit[:, None] ** 2 / (p * p))


def solve(case, paths, reference=None, factors=None, ve=1.0, fmep=1.0):
    """Power (…, paths, rpm) of the candidates, and the reference's own (…, 1, rpm)."""
    rpm = np.array(case["rpm"])
    p0, T0 = case["ambient"]["p_Pa"], case["inletT_K"]
    Tm = T0 + case["heating_K"]
    rc = case["engine"]["compressionRatio"]
    swept = case["engine"]["displacement_m3"] * rpm / 120
    m_ref = np.array(case["reference"]["massFlow_kgps"]) * ve
    P_ref = np.array(case["reference"]["power_W"]) * ve
    base = m_ref.max(axis=-1, keepdims=True)
    B = case["exhaust_Pa"] / base**2
    stock = Paths([case["stock"]])
    p_ref = stock.end_pressure(np.broadcast_to(m_ref, np.broadcast_shapes(m_ref.shape, (1, rpm.size))).copy(), p0, T0, reference)

    def residual(p, m):
        return (rc - ((p0 + B * m * m) / p) ** (1 / GAMMA)) / (rc - 1)

    eta = m_ref * R * Tm / (swept * p_ref) / residual(p_ref, m_ref)
    shape = np.broadcast_shapes(m_ref.shape, (paths.exit.size, rpm.size))

    def surplus(m):
        p = paths.end_pressure(m, p0, T0, factors)
        return eta * residual(p, m) * swept * p / (R * Tm) - m

    start = np.broadcast_to(m_ref, shape).copy()
    m = newton(surplus, start, x1=start * 1.002, tol=1e-9 * float(m_ref.max()), maxiter=40)
    p = paths.end_pressure(m, p0, T0, factors)
    friction = 1e5 * (0.97 + 0.15 * rpm / 1000 + 0.05 * (rpm / 1000) ** 2) * swept * fmep
    return (P_ref + friction) * m / m_ref - friction + (p - p_ref) * swept, P_ref


def timed(work, runs, warm_up=True):
    if warm_up:
        work()
    times = []
    for _ in range(runs):
        t = time.perf_counter()
        work()
        times.append(1000 * (time.perf_counter() - t))
    return sorted(times)[len(times) // 2]


def peaks(case, key):
    return solve(case, Paths(case[key]))[0].max(axis=-1)


def ranges(case):
    rng = np.random.default_rng(1)
    n, t = case["draws"], case["tolerances"]
    within = lambda tol: 1 + tol * (2 * rng.random((n, 1, 1)) - 1)
    ve, fmep = within(t["ve"]), within(t["fmep"])
    names = {name: within(t["K"]) for name in dict.fromkeys(case["stock"]["rows"] + case["drawn"][0]["rows"])}
    paths = Paths(case["drawn"])
    power, ref = solve(
        case, paths, [names[r] for r in case["stock"]["rows"]], [names[r] for r in paths.names], ve, fmep
    )
    gain = 100 * (power.max(axis=-1) / ref.max(axis=-1) - 1)
    return np.quantile(gain, [0.1, 0.5, 0.9], axis=0).T


def main():
    with open(sys.argv[1], encoding="utf-8") as f:
        case = json.load(f)
    ours = case["ours"]
    kept = []
    off = lambda key, mine: float(np.max(np.abs(np.array(mine) / np.array(ours[key]) - 1)))
    theirs = np.array([[r["p10"], r["p50"], r["p90"]] for r in ours["ranges"]])
    print(
        json.dumps(
            {
                "units_ms": timed(lambda: peaks(case, "units"), 9),
                "knee_ms": timed(lambda: peaks(case, "knee"), 5),
                "ranges_ms": timed(lambda: kept.append(ranges(case)), 1, warm_up=False),
                "units_off": off("units_W", peaks(case, "units")),
                "knee_off": off("knee_W", peaks(case, "knee")),
                "ranges_off_points": float(np.max(np.abs(kept[0] - theirs))),
            }
        )
    )


main()
