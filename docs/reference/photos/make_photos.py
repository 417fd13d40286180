#!/usr/bin/env python3
"""Photographs of patches made by other means than the app's own simulated camera, to try the reader on.

    npm run kit -- KIT
    python3 docs/reference/photos/make_photos.py KIT OUT [--n 60] [--seed 1] [--only KIND]

Needs Debian's python3-opencv and python3-numpy. Writes OUT/*.jpg and OUT/truth.json. Everything here is this file's
own: grounds, inks (halftone dots of a given depth and gain over the ground), paper fibres, faults, lens, lamp, sensor.
It shares nothing with the reader but the kit's pictures and their places in millimetres.
"""
import argparse, json, os
import cv2
import numpy as np

PX = 16.0  # px per mm of the scene before the camera


def lin(v):
    v = np.asarray(v, np.float32) / 255.0
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4).astype(np.float32)


def srgb(v):
    v = np.clip(v, 0, 1)
    return np.where(v <= 0.0031308, v * 12.92, 1.055 * v ** (1 / 2.4) - 0.055)


def noise(rng, h, w, sx, sy=None, gain=1.0):
    """Smooth noise of unit scatter with a size of sx × sy px."""
    sy = sy or sx
    hh, ww = int(np.ceil(h / sy)) + 4, int(np.ceil(w / sx)) + 4
    small = rng.standard_normal((hh, ww)).astype(np.float32)
    big = cv2.resize(small, (int(ww * sx), int(hh * sy)), interpolation=cv2.INTER_CUBIC)
    oy, ox = rng.integers(0, max(1, big.shape[0] - h)), rng.integers(0, max(1, big.shape[1] - w))
    out = big[oy:oy + h, ox:ox + w]
    return gain * (out - out.mean()) / (out.std() + 1e-6)


GROUNDS = ['card', 'birch', 'oak', 'knotty', 'kraft', 'linen', 'slate', 'tile', 'glass', 'metal', 'cotton']


def ground(rng, kind, h, w):
    y, x = np.mgrid[0:h, 0:w].astype(np.float32) / PX
    tint = lambda c: np.ones((h, w, 3), np.float32) * np.array(c, np.float32)
    if kind == 'card':
        return tint([.86, .84, .80]) * (1 + .015 * noise(rng, h, w, 3))[..., None]
    if kind == 'birch':
        g = 1 + .05 * noise(rng, h, w, 300, 8) + .03 * noise(rng, h, w, 60, 3)
        return tint([.72, .58, .40]) * g[..., None] ** np.array([.9, 1, 1.2])
    if kind == 'oak':
        ring = np.sin(y * 2.1 + 2.5 * noise(rng, h, w, 700, 60) * .5 + x * rng.uniform(-.1, .1))
        pores = (noise(rng, h, w, 40, 2.2) > 1.5).astype(np.float32)
        g = 1 + .13 * ring + .07 * noise(rng, h, w, 200, 5)
        g = np.clip(g, .45, 1.5) * (1 - .45 * cv2.GaussianBlur(pores, (0, 0), .8))
        return tint([.48, .33, .18]) * g[..., None] ** np.array([.85, 1, 1.25])
    if kind == 'knotty':
        g = 1 + .09 * np.sin(y * 1.4 + 1.2 * noise(rng, h, w, 500, 80)) + .04 * noise(rng, h, w, 150, 4)
        for _ in range(rng.integers(1, 4)):
            cx, cy, r = rng.uniform(0, w / PX), rng.uniform(0, h / PX), rng.uniform(2, 5)
            d = np.hypot((x - cx) / 1.4, y - cy) / r
            g *= 1 - .62 * np.exp(-d ** 4) * (1 + .15 * np.sin(9 * d))
        return tint([.66, .48, .28]) * np.clip(g, .15, 1.4)[..., None] ** np.array([.85, 1, 1.3])
    if kind == 'kraft':
        spec = noise(rng, h, w, 3, 2) * .05 + noise(rng, h, w, 14, 3) * .05
        return tint([.44, .30, .18]) * (1 + spec)[..., None]
    if kind in ('linen', 'cotton'):
        p = .62 if kind == 'linen' else .42
        a = np.cos(2 * np.pi * (x / p + .12 * noise(rng, h, w, 40)))
        b = np.cos(2 * np.pi * (y / (p * 1.06) + .12 * noise(rng, h, w, 40)))
        g = 1 + (.10 if kind == 'linen' else .05) * (a + b) + .04 * noise(rng, h, w, 100, 6)
        c = [.60, .52, .40] if kind == 'linen' else [.88, .87, .83]
        return tint(c) * np.clip(g, .3, 1.4)[..., None]
    if kind == 'slate':
        g = 1 + .12 * noise(rng, h, w, 60, 25) + .10 * noise(rng, h, w, 8, 5)
        return tint([.15, .16, .175]) * np.clip(g, .4, 1.8)[..., None]
    if kind == 'tile':
        return tint([.90, .90, .88]) * (1 + .01 * noise(rng, h, w, 200))[..., None]
    if kind == 'glass':
        return tint([.62, .68, .65]) * (1 + .02 * noise(rng, h, w, 4))[..., None]
    g = 1 + .07 * noise(rng, h, w, 250, 2) + .04 * noise(rng, h, w, 400, 40)
    return tint([.56, .56, .57]) * np.clip(g, .5, 1.6)[..., None]


def blob(rng, h, w, rough):
    """A single closed region about the middle, unit radius; rough 0 round … 1 ragged."""
    t = np.linspace(0, 2 * np.pi, 240, endpoint=False)
    r = np.ones_like(t)
    for k in range(2, 14):
        r += rough * rng.normal() / k ** .8 * np.cos(k * t + rng.uniform(0, 6.3))
    return np.stack([np.cos(t), np.sin(t)], 1) * np.clip(r, .25, 2.2)[:, None]


def draw(mask, pts):
    cv2.fillPoly(mask, [np.round(pts * 16).astype(np.int32)], 1, lineType=cv2.LINE_8, shift=4)


DEFECTS = ['clean', 'round', 'streak', 'edge', 'corner', 'ragged', 'speckle', 'veil', 'patchyveil', 'heavyveil',
           'smear', 'stain', 'faint', 'mirrored', 'turned', 'mixed', 'wet', 'shadow']
BAD = ['blurred', 'glare', 'cropped', 'hidden', 'dark', 'far', 'burnt', 'nocard', 'steep']


def bare_map(rng, kind, h, w):
    """1 where colourant is missing, and the shapes that were drawn: (shape, mask)."""
    miss = np.zeros((h, w), np.uint8)
    shapes = []

    def put(name, pts):
        one = np.zeros((h, w), np.uint8)
        draw(one, pts)
        miss[one > 0] = 1
        shapes.append((name, one))

    mm = PX
    n = {'round': (2, 6), 'streak': (1, 4), 'ragged': (1, 4), 'mixed': (1, 3)}.get(kind, (0, 0))
    def round_():
        r = rng.uniform(.9, 3.2) * mm
        put('round', blob(rng, h, w, .03) * r * [1, rng.uniform(.85, 1)] + [rng.uniform(4 * mm, w - 4 * mm), rng.uniform(4 * mm, h - 4 * mm)])
    def streak():
        a = rng.uniform(0, np.pi); L = rng.uniform(6, 20) * mm; wd = rng.uniform(.6, 1.6) * mm
        c = np.array([rng.uniform(.25 * w, .75 * w), rng.uniform(.25 * h, .75 * h)])
        t = np.linspace(-1, 1, 60); half = wd / 2 * (1 - t ** 4) * (1 + .25 * rng.standard_normal(60).cumsum() / 8)
        bend = rng.normal() * .06 * L * t ** 2
        top = np.stack([t * L / 2, bend + np.abs(half)], 1); bot = np.stack([t * L / 2, bend - np.abs(half)], 1)[::-1]
        R = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
        put('streak', np.concatenate([top, bot]) @ R.T + c)
    def ragged():
        r = rng.uniform(1.5, 4) * mm
        put('ragged', blob(rng, h, w, .42) * r + [rng.uniform(6 * mm, w - 6 * mm), rng.uniform(6 * mm, h - 6 * mm)])
    def edge():
        side = rng.integers(0, 4); L = w if side % 2 == 0 else h
        t = np.linspace(0, 1, 80)
        d = np.abs(rng.uniform(.8, 2.6) * mm * (1 + .3 * np.interp(t, np.linspace(0, 1, 9), rng.standard_normal(9))))
        a, b = np.sort(rng.uniform(0, 1, 2)) if rng.random() < .5 else (0.0, 1.0)
        if b - a < .35: a, b = 0.1, .7
        s = (a + (b - a) * t) * L
        inner = {0: np.stack([s, d], 1), 2: np.stack([s, h - d], 1), 1: np.stack([w - d, s], 1), 3: np.stack([d, s], 1)}[side]
        o = {0: [[s[-1], -5], [s[0], -5]], 2: [[s[-1], h + 5], [s[0], h + 5]], 1: [[w + 5, s[-1]], [w + 5, s[0]]], 3: [[-5, s[-1]], [-5, s[0]]]}[side]
        put('edge band', np.concatenate([inner, np.array(o)]))
    def corner():
        k = rng.integers(0, 4); c = np.array([[0, 0], [w, 0], [w, h], [0, h]][k], float)
        put('corner', blob(rng, h, w, .18) * rng.uniform(2.5, 7) * mm + c)
    table = {'round': round_, 'streak': streak, 'ragged': ragged}
    if kind in table:
        for _ in range(rng.integers(*n)): table[kind]()
    elif kind == 'edge':
        edge()
    elif kind == 'corner':
        corner()
    elif kind == 'mixed':
        for f in rng.permutation([round_, streak, ragged, edge, corner])[:rng.integers(2, 4)]: f()
    elif kind == 'speckle':
        f = noise(rng, h, w, rng.uniform(.25, .6) * mm); miss[f > rng.uniform(1.3, 2.2)] = 1
    return miss, shapes


def fibres(rng, h, w):
    out = np.zeros((h, w), np.float32)
    for _ in range(int(h * w / PX / PX * 6)):
        a = rng.uniform(0, np.pi); L = rng.uniform(.6, 2.2) * PX; c = [rng.uniform(0, w), rng.uniform(0, h)]
        d = np.array([np.cos(a), np.sin(a)]) * L / 2; k = rng.normal() * .25 * L * np.array([-np.sin(a), np.cos(a)])
        pts = np.array([c - d, np.array(c) + k, c + d])
        cv2.polylines(out, [np.round(pts * 16).astype(np.int32)], False, float(rng.uniform(.4, 1)), 1, cv2.LINE_AA, 4)
    out = cv2.GaussianBlur(out, (0, 0), .7)
    return out / (out.mean() + 1e-6)


def specimen(rng, kind, gkind, ref, depth=None):
    """The finished patch and what is true of it. ref: linear RGB as it should look, at PX."""
    h, w = ref.shape[:2]
    m = int(6 * PX)
    B = ground(rng, gkind, h + 2 * m, w + 2 * m).astype(np.float32)
    B = np.clip(B, .01, 1)
    inner = (slice(m, m + h), slice(m, m + w))
    b = B[inner]
    # Ink: dots of coverage a, of a solid that lets `depth` through.
    depth = depth if depth is not None else (rng.uniform(.10, .28) if kind == 'faint' else rng.choice([0, .01, .03, .06]))
    gain = rng.uniform(-.05, .18)
    a = 1 - ref
    a = np.clip(a + 4 * gain * .5 * a * (1 - a), 0, 1)
    opaque = rng.uniform(0, .012)
    solid = depth * b + opaque
    over = (1 - a) * b + a * solid
    smear_mm, along = 0.0, 0.0
    if kind == 'smear':
        smear_mm = rng.uniform(.25, 1.2); along = rng.uniform(0, 180)
        n = int(max(3, smear_mm * PX)); k = np.zeros((2 * n + 1, 2 * n + 1), np.float32)
        d = np.array([np.cos(np.radians(along)), np.sin(np.radians(along))])
        for t in np.linspace(-.5, .5, 4 * n): k[int(round(n + d[1] * t * n)), int(round(n + d[0] * t * n))] += 1
        trans = over / b
        over = cv2.filter2D(trans, -1, k / k.sum(), borderType=cv2.BORDER_REPLICATE) * b
    miss, shapes = bare_map(rng, kind, h, w)
    soft = cv2.GaussianBlur(miss.astype(np.float32), (0, 0), rng.uniform(.6, 1.6))[..., None]
    out = over * (1 - soft) + b * soft
    stained = np.zeros((h, w), np.uint8)
    if kind == 'stain':
        for _ in range(rng.integers(1, 4)):
            draw(stained, blob(rng, h, w, .3) * rng.uniform(2, 5) * PX + [rng.uniform(0, w), rng.uniform(0, h)])
        out = out * (1 - .45 * cv2.GaussianBlur(stained.astype(np.float32), (0, 0), 3))[..., None]
    base = {'veil': rng.uniform(.08, .3), 'patchyveil': rng.uniform(.12, .35), 'heavyveil': rng.uniform(.35, .62),
            'mixed': rng.uniform(0, .2), 'wet': rng.uniform(.1, .3)}.get(kind, rng.choice([0, 0, .02, .05]))
    f = fibres(rng, h, w)
    field = np.clip(1 + (.7 if kind == 'patchyveil' else .2) * noise(rng, h, w, 6 * PX), .05, 2.5)
    hz = np.clip(base * field * (.65 + .35 * f), 0, .92)
    if kind != 'wet':
        paper = np.array([.93, .92, .90], np.float32)
        cover = hz[..., None] * (1 - .8 * soft)
        out = out * (1 - cover) + paper * cover
    else:
        out = out * .82  # wet: darker; some water shines
        drops = (noise(rng, h, w, .8 * PX) > 2.3).astype(np.float32)
        out = out + (.9 - out) * cv2.GaussianBlur(drops, (0, 0), 1)[..., None] * .8
    board = B.copy(); board[inner] = out
    if kind == 'wet': board[inner] = out
    lum = ref @ np.array([.2126, .7152, .0722], np.float32)
    inked = lum < .60
    hold = miss == 0
    truth = {'landed': float(100 * (inked & hold).sum() / inked.sum()),
             'veil': float(hz[inked & hold].mean()) if (inked & hold).any() else None,
             'smear': smear_mm, 'smearAlong': along, 'kind': kind, 'ground': gkind, 'depth': float(depth)}
    n, lab, st, cen = cv2.connectedComponentsWithStats((miss & inked.astype(np.uint8)).astype(np.uint8))
    truth['bare'] = []
    for i in range(1, n):
        area = st[i, 4] / PX ** 2
        if area >= 1:
            best = max(shapes, key=lambda s: int((s[1][lab == i]).sum()), default=('speckle' if area < 3 else 'ragged', None))
            truth['bare'].append({'x': float(cen[i, 0] / PX), 'y': float(cen[i, 1] / PX), 'area': float(area), 'shape': best[0]})
    truth['stain'] = float(100 * stained[lum > .95].mean())
    solidpart = inked & hold & (lum < .5)
    truth['tone'], truth['deltaL'], truth['deltaC'] = tones(lum, ref * b, over, solidpart)
    return board, m, truth


def lab(rgb):
    M = np.array([[.4124564, .3575761, .1804375], [.2126729, .7151522, .0721750], [.0193339, .1191920, .9503041]])
    xyz = rgb.reshape(-1, 3) @ M.T / np.array([.95047, 1, 1.08883])
    f = np.where(xyz > .008856, np.cbrt(xyz), 7.787 * xyz + 16 / 116)
    return np.stack([116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])], 1)


def de00(a, b):
    L1, a1, b1 = a.T; L2, a2, b2 = b.T
    C1, C2 = np.hypot(a1, b1), np.hypot(a2, b2); Cm = (C1 + C2) / 2
    G = .5 * (1 - np.sqrt(Cm ** 7 / (Cm ** 7 + 25. ** 7)))
    a1, a2 = a1 * (1 + G), a2 * (1 + G)
    C1, C2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.degrees(np.arctan2(b1, a1)) % 360, np.degrees(np.arctan2(b2, a2)) % 360
    dL, dC = L2 - L1, C2 - C1
    dh = h2 - h1; dh = np.where(dh > 180, dh - 360, np.where(dh < -180, dh + 360, dh)); dh = np.where(C1 * C2 == 0, 0, dh)
    dH = 2 * np.sqrt(C1 * C2) * np.sin(np.radians(dh) / 2)
    Lm, Cm = (L1 + L2) / 2, (C1 + C2) / 2
    hm = np.where(C1 * C2 == 0, h1 + h2, np.where(np.abs(h1 - h2) <= 180, (h1 + h2) / 2, (h1 + h2 + 360) / 2))
    T = 1 - .17 * np.cos(np.radians(hm - 30)) + .24 * np.cos(np.radians(2 * hm)) + .32 * np.cos(np.radians(3 * hm + 6)) - .2 * np.cos(np.radians(4 * hm - 63))
    SL = 1 + .015 * (Lm - 50) ** 2 / np.sqrt(20 + (Lm - 50) ** 2); SC = 1 + .045 * Cm; SH = 1 + .015 * Cm * T
    RT = -2 * np.sqrt(Cm ** 7 / (Cm ** 7 + 25. ** 7)) * np.sin(np.radians(60 * np.exp(-((hm - 275) / 25) ** 2)))
    return np.sqrt((dL / SL) ** 2 + (dC / SC) ** 2 + (dH / SH) ** 2 + RT * dC / SC * dH / SH)


def tones(ref, expected, seen, where):
    if where.sum() < 50: return None, None, None
    # Over even areas of about a millimetre, as an eye looks at solids; against the card's own paper as white.
    flat = cv2.dilate(ref, np.ones((13, 13))) - cv2.erode(ref, np.ones((13, 13))) < .02
    where = where & flat
    if where.sum() < 50: return None, None, None
    e, s = cv2.blur(expected, (9, 9))[where][::37] / .895, cv2.blur(seen.astype(np.float32), (9, 9))[where][::37] / .895
    e, s = lab(np.clip(e, 0, 1)), lab(np.clip(s, 0, 1))
    return float(np.median(de00(e, s))), float(np.median(s[:, 0] - e[:, 0])), float(np.median(np.hypot(s[:, 1], s[:, 2]) - np.hypot(e[:, 1], e[:, 2])))


def kelvin(k):
    t = {2700: [1, .55, .22], 3500: [1, .70, .42], 4500: [1, .84, .66], 5500: [1, .95, .87], 6500: [1, 1, 1], 7500: [.93, .97, 1.06]}
    ks = sorted(t)
    return np.array([np.interp(k, ks, [t[q][c] for q in ks]) for c in range(3)], np.float32)


def photograph(rng, scene, mm_w, mm_h, kind, pxmm=None):
    """scene: linear RGB at PX of the page (mm_w × mm_h) with the table round it. Returns BGR bytes."""
    pxmm = pxmm or rng.uniform(9, 20)
    if kind == 'far': pxmm = rng.uniform(2.5, 4.2)
    if kind == 'wb': pass
    H0, W0 = scene.shape[:2]
    tilt = rng.uniform(0, 22) if kind != 'steep' else rng.uniform(55, 65)
    az, roll = rng.uniform(0, 2 * np.pi), rng.uniform(-12, 12) + rng.choice([0, 0, 90, 180])
    if abs(roll % 180 - 90) < 30: mm_w, mm_h = mm_h, mm_w  # the phone is turned with it
    out_w = int((mm_w + 16) * pxmm); out_h = int((mm_h + 16) * pxmm)
    f = 1.15 * max(out_w, out_h); D = f / pxmm  # distance in mm
    cx, cy = out_w / 2, out_h / 2
    ca, sa = np.cos(az), np.sin(az); ct, st = np.cos(np.radians(tilt)), np.sin(np.radians(tilt))
    axis = np.array([ca, sa, 0]); K = np.array([[0, 0, sa], [0, 0, -ca], [-sa, ca, 0]])
    Rt = np.eye(3) + st * K + (1 - ct) * K @ K
    Rr, _ = cv2.Rodrigues(np.array([0, 0, np.radians(roll)]))
    R = Rr @ Rt
    # Plane point (X, Y) mm from the page's middle → camera.
    Hc = np.stack([R[:, 0], R[:, 1], np.array([0, 0, D])], 1)
    Kc = np.array([[f, 0, cx], [0, f, cy], [0, 0, 1]])
    mm2scene = np.array([[PX, 0, W0 / 2 - .5], [0, PX, H0 / 2 - .5], [0, 0, 1]])
    M = Kc @ Hc
    v, u = np.mgrid[0:out_h, 0:out_w].astype(np.float32)
    k1 = rng.uniform(-.03, .02)
    xn, yn = (u - cx) / f, (v - cy) / f; r2 = xn ** 2 + yn ** 2
    ud, vd = cx + (u - cx) * (1 + k1 * r2), cy + (v - cy) * (1 + k1 * r2)
    inv = mm2scene @ np.linalg.inv(M)
    q = inv[2, 0] * ud + inv[2, 1] * vd + inv[2, 2]
    sx = ((inv[0, 0] * ud + inv[0, 1] * vd + inv[0, 2]) / q).astype(np.float32)
    sy = ((inv[1, 0] * ud + inv[1, 1] * vd + inv[1, 2]) / q).astype(np.float32)
    soft = PX / pxmm
    src = cv2.GaussianBlur(scene, (0, 0), .42 * soft) if soft > 1 else scene
    img = cv2.remap(src, sx, sy, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    # Light.
    X, Y = (sx - W0 / 2) / W0, (sy - H0 / 2) / H0
    ang = rng.uniform(0, 2 * np.pi); fall = rng.uniform(0, .38)
    L = 1 - fall * (.5 + (X * np.cos(ang) + Y * np.sin(ang))) - .10 * fall * (X ** 2 + Y ** 2)
    if kind == 'shadow':
        a2 = rng.uniform(0, 2 * np.pi); edge = X * np.cos(a2) + Y * np.sin(a2) - rng.uniform(-.18, .18)
        L = L * (1 - rng.uniform(.25, .5) / (1 + np.exp(-edge / rng.uniform(.003, .015))))
    img = img * np.clip(L, .05, 2)[..., None] * kelvin(rng.uniform(2700, 7500))
    img *= 1 - .25 * r2[..., None]
    if kind == 'glare':
        gx, gy = rng.uniform(-.15, .15, 2); img += 1.6 * np.exp(-(((X - gx) ** 2 + (Y - gy) ** 2) / (2 * rng.uniform(.05, .1) ** 2)))[..., None]
    if kind == 'hidden':
        th = [(0, 0), (1, 0), (1, 1), (0, 1), (0, .5), (1, .5)]
        for i in rng.permutation(6)[:3]:
            px_, py_ = th[i]; mx = (.12 + .76 * px_ - .5) * mm_w / W0 * PX; my = (.12 + .76 * py_ - .5) * mm_h / H0 * PX
            img[(np.abs(X - mx) < .11) & (np.abs(Y - my) < .11)] = [.5, .38, .3]
    expo = rng.uniform(.62, .9) / np.percentile(img.max(2), 98)
    if kind == 'dark': expo *= .03
    if kind == 'burnt': expo *= 2.6
    img = img * expo
    img = (img + (rng.uniform(0, .012) if kind != 'glare' else .01)) / 1.01
    s = rng.uniform(.35, .8) * (pxmm / 12) ** .5
    if kind == 'blurred': s = rng.uniform(.36, .6) * pxmm
    img = cv2.GaussianBlur(img, (0, 0), s)
    img += rng.standard_normal(img.shape).astype(np.float32) * np.sqrt(np.maximum(img, 0) * rng.uniform(.00002, .00018) + rng.uniform(.5, 3) * 1e-6)
    out = srgb(img)
    c = rng.uniform(0, .12); out = out + c * (out * out * (3 - 2 * out) - out)  # a phone's own curve
    if rng.random() < .6:  # and its sharpening
        out = out + rng.uniform(.1, .5) * (out - cv2.GaussianBlur(out.astype(np.float32), (0, 0), 1.1))
    out = np.clip(out * 255, 0, 255).astype(np.uint8)
    if kind == 'cropped':
        d = rng.integers(0, 4); cut = rng.uniform(.34, .48)
        n = int(cut * (out_w if d % 2 else out_h))
        out = [out[n:], out[:, n:], out[:-n], out[:, :-n]][d]
    return out[..., ::-1]


BLACK = None


def bent(rng, card):
    """The card as printed and cut: paper's colour, ink that is not quite black, a little off in scale by the printer."""
    paper = np.array([.90, .895, .885], np.float32)
    black = BLACK if BLACK is not None else rng.choice([0, .008, .02])
    return (black + (1 - black) * card)[..., None] * paper


def main():
    p = argparse.ArgumentParser()
    p.add_argument('kit'); p.add_argument('out'); p.add_argument('--n', type=int, default=60)
    p.add_argument('--seed', type=int, default=1); p.add_argument('--only'); p.add_argument('--ground'); p.add_argument('--px', type=float)
    p.add_argument('--board'); p.add_argument('--black', type=float)
    a = p.parse_args()
    global BLACK
    BLACK = a.black
    os.makedirs(a.out, exist_ok=True)
    if a.board: return boards(a)
    cj = json.load(open(f'{a.kit}/card.json')); tj = json.load(open(f'{a.kit}/target.json'))
    pw, ph, win = cj['page']['w'], cj['page']['h'], cj['window']
    tw, th = tj['size']['w'], tj['size']['h']
    card = cv2.imread(f'{a.kit}/card.png', 0); ref = cv2.imread(f'{a.kit}/target.png', 1)[..., ::-1]
    card = lin(cv2.resize(card, (int(pw * PX), int(ph * PX)), interpolation=cv2.INTER_AREA))
    ref = cv2.resize(lin(ref), (int(tw * PX), int(th * PX)), interpolation=cv2.INTER_AREA)
    truths = []
    for i in range(a.n):
        rng = np.random.default_rng(a.seed * 100003 + i)
        kinds = DEFECTS + BAD
        kind = a.only or kinds[i % len(kinds)]
        g = a.ground or GROUNDS[int(rng.integers(0, len(GROUNDS)))]
        board, m, truth = specimen(rng, kind, g, ref)
        turn = int(rng.choice([1, 2, 3])) if kind == 'turned' else 0
        patch = board
        if turn: patch = np.rot90(board, -turn).copy()
        if kind == 'mirrored': patch = board[:, ::-1].copy()
        truth.update(turn=90 * turn, mirrored=kind == 'mirrored', usable=kind not in BAD, file=f'{i:03d}-{kind}-{g}.jpg')
        table = ground(rng, rng.choice(['oak', 'metal', 'card']), int((ph + 24) * PX), int((pw + 24) * PX)) * .7
        scene = table.astype(np.float32)
        o = int(12 * PX)
        page = bent(rng, card)
        # The patch under the window, a little off and askew.
        dx, dy, rot = rng.uniform(-1.2, 1.2), rng.uniform(-1.2, 1.2), rng.uniform(-2.5, 2.5)
        H, W = patch.shape[:2]
        c = (win['x'] + win['w'] / 2 + dx, win['y'] + win['h'] / 2 + dy)
        A = cv2.getRotationMatrix2D((W / 2 - .5, H / 2 - .5), rot, 1); A[0, 2] += c[0] * PX - W / 2; A[1, 2] += c[1] * PX - H / 2
        under = cv2.warpAffine(patch, A, (page.shape[1], page.shape[0]), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)
        hole = np.zeros(page.shape[:2], np.float32)
        x0, y0, x1, y1 = [int(round(v * PX)) for v in (win['x'], win['y'], win['x'] + win['w'], win['y'] + win['h'])]
        hole[y0:y1, x0:x1] = 1
        shade = 1 - .25 * cv2.GaussianBlur(1 - hole, (0, 0), .35 * PX)  # the card's own little shadow on the ground
        page = page * (1 - hole[..., None]) + under * shade[..., None] * hole[..., None]
        if kind != 'nocard': scene[o:o + page.shape[0], o:o + page.shape[1]] = page
        if kind == 'hidden': pass
        photo = photograph(rng, scene, pw, ph, kind, a.px)
        cv2.imwrite(f"{a.out}/{truth['file']}", photo, [cv2.IMWRITE_JPEG_QUALITY, int(rng.integers(72, 95))])
        truths.append(truth)
    json.dump(truths, open(f'{a.out}/truth.json', 'w'), indent=1)


def boards(a):
    """Whole boards: OUT/board.json as `npm run read -- --board` takes it, and photos of it; `--board 230x180`."""
    bw, bh = [float(v) for v in a.board.split('x')]
    cj = json.load(open(f'{a.kit}/corners.json')); tj = json.load(open(f'{a.kit}/target.json'))
    tw, th = tj['size']['w'], tj['size']['h']
    ref = cv2.resize(lin(cv2.imread(f'{a.kit}/target.png', 1)[..., ::-1]), (int(tw * PX), int(th * PX)), interpolation=cv2.INTER_AREA)
    margin, gap = 12, 6
    cols, rows = int((bw - 2 * margin + gap) // (tw + gap)), int((bh - 2 * margin + gap) // (th + gap))
    patches = [{'code': f'P{r}{c}', 'x': margin + c * (tw + gap), 'y': margin + r * (th + gap), 'w': tw, 'h': th} for r in range(rows) for c in range(cols)]
    json.dump({'unit': 'mm', 'size': {'w': bw, 'h': bh}, 'markers': cj['markers'], 'greys': cj.get('greys', []), 'patches': patches}, open(f'{a.out}/board.json', 'w'), indent=1)
    truths = []
    for i in range(a.n):
        rng = np.random.default_rng(a.seed * 7001 + i)
        g = a.ground or GROUNDS[int(rng.integers(0, len(GROUNDS)))]
        pad = 40
        scene = (ground(rng, 'metal', int((bh + 2 * pad) * PX), int((bw + 2 * pad) * PX)) * .6).astype(np.float32)
        wood = np.clip(ground(rng, g, int(bh * PX), int(bw * PX)), .01, 1)
        o = int(pad * PX)
        scene[o:o + wood.shape[0], o:o + wood.shape[1]] = wood
        t = {'file': f'board-{i:02d}-{g}.jpg', 'patches': []}
        for p in patches:
            kind = rng.choice(['clean', 'round', 'streak', 'edge', 'corner', 'ragged', 'veil', 'mixed'])
            state = ground
            board, m, truth = specimen(rng, kind, g, ref)
            b = board[m:-m, m:-m]
            x, y = p['x'] + rng.uniform(-1.5, 1.5), p['y'] + rng.uniform(-1.5, 1.5)
            X, Y = int(o + x * PX), int(o + y * PX)
            e = int(3 * PX)  # its own ground shows 3 mm round it
            piece = board[m - e:m + b.shape[0] + e, m - e:m + b.shape[1] + e]
            scene[Y - e:Y - e + piece.shape[0], X - e:X - e + piece.shape[1]] = piece
            t['patches'].append({'code': p['code'], **truth})
        for piece in cj['pieces']:
            img = cv2.imread(f"{a.kit}/{piece['file']}", 0)
            w, h = int(piece['size']['w'] * PX), int(piece['size']['h'] * PX)
            img = lin(cv2.resize(img, (w, h), interpolation=cv2.INTER_AREA))[..., None] * np.array([.90, .895, .885], np.float32)
            X, Y = int(o + piece['at']['x'] * PX), int(o + piece['at']['y'] * PX)
            scene[Y:Y + h, X:X + w] = img
        photo = photograph(rng, scene, bw + 2 * pad - 16, bh + 2 * pad - 16, 'clean', a.px or rng.uniform(10, 14))
        cv2.imwrite(f"{a.out}/{t['file']}", photo, [cv2.IMWRITE_JPEG_QUALITY, 88])
        truths.append(t)
    json.dump(truths, open(f'{a.out}/truth.json', 'w'), indent=1)


if __name__ == '__main__':
    main()
