"""The gas in ducts by the same scheme in vectorised numpy: all cells of all ducts in one array operation. Reads the case, prints its
time and how far its pressures lie from ours."""

import json
import sys
import time

import numpy as np

SMOOTH_SHARE, SMOOTH_CELL, LEAST_SHARE = 0.02, 0.018, 0.3

case = json.load(open(sys.argv[1]))
R, GAMMA = case["R"], case["gamma"]
dx, steps, courant = case["cell_m"], case["steps"], case["courant"]
p = np.array(case["start_Pa"])
rho = p / (R * case["T_K"])
u = np.zeros_like(p)
M, P, E = rho.copy(), rho * u, p / (GAMMA - 1)
jump = SMOOTH_SHARE * dx / SMOOTH_CELL


def reach(far, near, smooth2):
    third = (2 * near + far) / 6
    with np.errstate(divide="ignore", invalid="ignore"):
        theta = far / near
        t = (2 + theta) / 3
        inner = np.maximum(-0.5 * theta, np.minimum(np.minimum(2 * theta, t), 1.6))
        limited = np.where(near == 0, 0, 0.5 * near * np.maximum(0, np.minimum(t, inner)))
    return np.where(far * far + near * near <= smooth2, third, limited)


def differences(q):
    d = q[:, 1:] - q[:, :-1]
    return np.concatenate([d[:, :1], d], 1), np.concatenate([d, d[:, -1:]], 1)


began = time.process_time()
for _ in range(steps):
    dt = courant / np.max((np.abs(u) + np.sqrt(GAMMA * p / rho)) / dx)
    (rf, rn), (uf, un), (pf, pn) = differences(rho), differences(u), differences(p)
    c2 = GAMMA * p / rho
    sp = p * jump
    sr = sp / c2
    su2 = sr * sr * c2 / (rho * rho)
    ra, rb = reach(rf, rn, sr * sr), reach(rn, rf, sr * sr)
    ua, ub = reach(uf, un, su2), reach(un, uf, su2)
    pa, pb = reach(pf, pn, sp * sp), reach(pn, pf, sp * sp)
    h = 0.5 * dt / dx
    dr = -h * (u * (ra + rb) + rho * (ua + ub))
    du = -h * (u * (ua + ub) + (pa + pb) / rho)
    dp = -h * (u * (pa + pb) + GAMMA * p * (ua + ub))
    even = (
        (rho + dr + ra < LEAST_SHARE * rho)
        | (rho + dr - rb < LEAST_SHARE * rho)
        | (p + dp + pa < LEAST_SHARE * p)
        | (p + dp - pb < LEAST_SHARE * p)
    )
    keep = np.where(even, 0.0, 1.0)
    rm, um, pm = rho + keep * dr, u + keep * du, p + keep * dp
    r1, u1, p1 = (rm + keep * ra), (um + keep * ua), (pm + keep * pa)
    r2, u2, p2 = (rm - keep * rb), (um - keep * ub), (pm - keep * pb)
    first, last = (r2[:, 0], u2[:, 0], p2[:, 0]), (r1[:, -1], u1[:, -1], p1[:, -1])
    r1, u1, p1, r2, u2, p2 = r1[:, :-1], u1[:, :-1], p1[:, :-1], r2[:, 1:], u2[:, 1:], p2[:, 1:]
    c1, c2 = np.sqrt(GAMMA * p1 / r1), np.sqrt(GAMMA * p2 / r2)
    between = 0.5 * (p1 + p2) - 0.125 * (u2 - u1) * (r1 + r2) * (c1 + c2)
    k = (GAMMA + 1) / (2 * GAMMA)
    s1 = u1 - np.where(between > p1, c1 * np.sqrt(np.maximum(0, 1 + k * (between / p1 - 1))), c1)
    s2 = u2 + np.where(between > p2, c2 * np.sqrt(np.maximum(0, 1 + k * (between / p2 - 1))), c2)
    m1, m2 = r1 * (s1 - u1), r2 * (s2 - u2)
    star = (p2 - p1 + u1 * m1 - u2 * m2) / (m1 - m2)
    left = star >= 0
    r, v, q, s = np.where(left, r1, r2), np.where(left, u1, u2), np.where(left, p1, p2), np.where(left, s1, s2)
    e = q / (GAMMA - 1) + 0.5 * r * v * v
    inside = np.where(left, s1 < 0, s2 > 0)
    rs = r * (s - v) / (s - star)
    es = rs * (e / r + (star - v) * (star + q / (r * (s - v))))
    fm = r * v + np.where(inside, s * (rs - r), 0)
    fp = r * v * v + q + np.where(inside, s * (rs * star - r * v), 0)
    fe = v * (e + q) + np.where(inside, s * (es - e), 0)
    zero = np.zeros((p.shape[0], 1))
    wall = lambda rho, out, p: (p + rho * np.sqrt(GAMMA * p / rho) * out)[:, None]
    fm = np.concatenate([zero, fm, zero], 1)
    fe = np.concatenate([zero, fe, zero], 1)
    fp = np.concatenate([wall(first[0], -first[1], first[2]), fp, wall(last[0], last[1], last[2])], 1)
    M = M - dt / dx * np.diff(fm)
    P = P - dt / dx * np.diff(fp)
    E = E - dt / dx * np.diff(fe)
    rho, u = M, P / M
    p = (GAMMA - 1) * (E - 0.5 * rho * u * u)
ms = (time.process_time() - began) * 1000
off = float(np.max(np.abs(p / np.array(case["p_Pa"]) - 1)))
print(json.dumps({"ms": ms, "off": off}))
