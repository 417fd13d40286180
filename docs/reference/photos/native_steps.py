#!/usr/bin/env python3
"""The reader's steps with native OpenCV and numpy, for its speed: native_steps.py PHOTO.jpg KIT. Prints seconds, best of five.
It reads nothing worth keeping; it does the same amount of work, step by step, as core/reading (see docs/ARCHITECTURE.md)."""
import json, sys, time
import cv2, numpy as np

PX, TURNS = 10, 2
photo, kit = sys.argv[1], sys.argv[2]
card = json.load(open(f'{kit}/card.json')); size = json.load(open(f'{kit}/target.json'))['size']
target = cv2.imread(f'{kit}/target.png', cv2.IMREAD_GRAYSCALE)
LUT = np.array([(v / 12.92 if v <= .04045 else ((v + .055) / 1.055) ** 2.4) for v in np.arange(256) / 255], np.float32)
blur = lambda a, s: cv2.GaussianBlur(a, (0, 0), s)


def seen(img, H, box, px=PX):
    w, h = round(box['w'] * px), round(box['h'] * px)
    fine = np.hypot(*(H[:2, 0] / H[2, 2])) / px
    if fine > 1.6 and px == PX:
        # Only what is looked at is made coarser.
        ends = cv2.perspectiveTransform(np.array([[[box['x'], box['y']], [box['x'] + box['w'], box['y']], [box['x'] + box['w'], box['y'] + box['h']], [box['x'], box['y'] + box['h']]]], float), H)[0]
        lo, hi = np.floor(ends.min(0) - 12).clip(0).astype(int), np.ceil(ends.max(0) + 12).astype(int)
        img = img[lo[1]:hi[1], lo[0]:hi[0]]
        H = np.array([[1, 0, -lo[0]], [0, 1, -lo[1]], [0, 0, 1]]) @ H
        k = 1.25 / fine
        img = cv2.resize(img, None, fx=k, fy=k, interpolation=cv2.INTER_AREA)
        H = np.diag([k, k, 1]) @ H
    S = np.array([[1 / px, 0, box['x']], [0, 1 / px, box['y']], [0, 0, 1]])
    return LUT[cv2.warpPerspective(img, H @ S, (w, h), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP)]


half = lambda a: cv2.resize(np.ascontiguousarray(a), None, fx=.5, fy=.5, interpolation=cv2.INTER_AREA)


def explain(v, ink, base, h):
    """Log likelihoods of ink under a veil and of the ground, Student in three channels, with their covariances."""
    out = []
    for mean in ((1 - h)[..., None] * ink + h[..., None], base):
        d = v - mean
        s = (.035 + .3 * np.minimum(.5, h)) ** 2
        p = 1 - ink
        C = s[..., None, None] * p[..., :, None] * p[..., None, :] + np.eye(3, dtype=np.float32) * (1e-4 + 2e-4 * np.abs(v))[..., None]
        a, b, c, e, f, i = C[..., 0, 0], C[..., 0, 1], C[..., 0, 2], C[..., 1, 1], C[..., 1, 2], C[..., 2, 2]
        A, B, D = e * i - f * f, f * c - b * i, b * f - c * e
        det = a * A + b * B + c * D
        E, F, I = a * i - c * c, b * c - a * f, a * e - b * b
        x, y, z = d[..., 0], d[..., 1], d[..., 2]
        q = (x * x * A + y * y * E + z * z * I + 2 * (x * y * B + x * z * D + y * z * F)) / det
        out.append(-.5 * np.log(det) - 4 * np.log1p(q / 5))
    return out


def read():
    img = cv2.imread(photo)
    grey = np.ascontiguousarray(img[..., 1])
    k = min(1, 1200 / max(grey.shape))
    small = cv2.resize(grey, None, fx=k, fy=k, interpolation=cv2.INTER_AREA) if k < 1 else grey
    old = not hasattr(cv2.aruco, 'ArucoDetector')
    par = cv2.aruco.DetectorParameters_create() if old else cv2.aruco.DetectorParameters()
    par.cornerRefinementMethod, par.cornerRefinementWinSize = 1, 4
    par.adaptiveThreshWinSizeMin = par.adaptiveThreshWinSizeMax = 23
    book = (cv2.aruco.Dictionary_get if old else cv2.aruco.getPredefinedDictionary)(cv2.aruco.DICT_4X4_50)
    found, ids, _ = cv2.aruco.detectMarkers(small, book, parameters=par) if old else cv2.aruco.ArucoDetector(book, par).detectMarkers(small)
    where = {m['id']: m for m in card['markers']}
    par.adaptiveThreshWinSizeMin = par.adaptiveThreshWinSizeMax = 43
    src, dst = [], []
    for c, n in zip(found, ids.ravel()):
        m = where.get(int(n))
        lo, hi = (c[0].min(0) / k - 30).clip(0).astype(int), (c[0].max(0) / k + 30).astype(int)
        part = np.ascontiguousarray(grey[lo[1]:hi[1], lo[0]:hi[0]])
        cv2.aruco.detectMarkers(part, book, parameters=par) if old else cv2.aruco.ArucoDetector(book, par).detectMarkers(part)
        if m: src += [[m['x'], m['y']], [m['x'] + m['size'], m['y']], [m['x'] + m['size'], m['y'] + m['size']], [m['x'], m['y'] + m['size']]]; dst += list((c[0] + .5) / k - .5)
    H, _ = cv2.findHomography(np.array(src, float), np.array(dst, float), cv2.RANSAC, 3)
    page = seen(img, H, {'x': 0, 'y': 0, **card['page']}, PX / 3)
    # Light: a cubic surface in each channel through the paper's cells; greys to tone; edges of markers to blur.
    cells = cv2.resize(page, None, fx=.1, fy=.1, interpolation=cv2.INTER_AREA)
    yy, xx = np.mgrid[:cells.shape[0], :cells.shape[1]] / cells.shape[0]
    A = np.stack([xx ** i * yy ** j for i in range(4) for j in range(4 - i)], -1).reshape(-1, 10)
    bright = cells.reshape(-1, 3)
    for _ in range(5):
        keep = bright[:, 1] > np.median(bright[:, 1])
        light = np.linalg.lstsq(A[keep], bright[keep], rcond=None)[0]
    for n, m in enumerate(card['markers']):
        part = seen(img, H, {'x': m['x'] - 1.6, 'y': m['y'] - 1.6, 'w': m['size'] + 3.2, 'h': m['size'] + 3.2})[..., 1]
        if n % 2: continue
        part = half(part)
        for sigma in np.linspace(.3, 1, 3): np.abs(blur((part > .4).astype(np.float32), 1.25 + sigma) - blur(part, 6)).sum()
    win = seen(img, H, card['window'])
    h, w = win.shape[:2]
    yy, xx = np.mgrid[:h, :w] / h
    win = (win / np.maximum(.05, sum((light[n] * (xx ** i * yy ** j)[..., None] for n, (i, j) in enumerate((i, j) for i in range(4) for j in range(4 - i)))))).astype(np.float32)
    ref = cv2.resize(target, (round(size['w'] * PX), round(size['h'] * PX)), interpolation=cv2.INTER_AREA)
    R = LUT[ref]
    g = np.sqrt(np.maximum(0, win.mean(2)))
    # Coarse: as it was made, in small angles, by light and by edges; then ECC, turned at a quarter, stretched at a half.
    sg, sr = half(g), half(np.sqrt(R))
    tg, tr = half(sg), half(sr)
    eg, er = tg - blur(tg, 8), tr - blur(tr, 8)
    best = (-2, None)
    for angle in (-7.5, -5, -2.5, 0, 2.5, 5, 7.5):
        A2 = cv2.getRotationMatrix2D((tr.shape[1] / 2, tr.shape[0] / 2), angle, 1)
        score = sum(.5 * cv2.matchTemplate(i, cv2.warpAffine(t, A2, t.shape[::-1]), cv2.TM_CCOEFF_NORMED) for i, t in ((tg, tr), (eg, er)))
        at = cv2.minMaxLoc(score)
        if at[1] > best[0]: best = (at[1], at[3])
    M = np.array([[1, 0, best[1][0]], [0, 1, best[1][1]]], np.float32)
    for t, i, motion, n, smooth in ((tr, tg, cv2.MOTION_EUCLIDEAN, 8, 3), (sr, sg, cv2.MOTION_AFFINE, 6, 1)):
        try: _, M = cv2.findTransformECC(t, i, M, motion, (3, n, 3e-4), None, smooth)
        except cv2.error: pass
        M = M * np.array([[1, 1, 2], [1, 1, 2]], np.float32)
    fine = np.ascontiguousarray(cv2.warpAffine(win, M, (R.shape[1], R.shape[0]), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP))
    whole, v, R = R, half(fine), half(R)
    cover = blur(1 - R, .5); growth = blur(4 * R * (1 - R), .5); slope = np.hypot(cv2.Sobel(cover, -1, 1, 0), cv2.Sobel(cover, -1, 0, 1))
    free = (cover < .05).astype(np.float32)
    base = np.stack([blur(v[..., c] * free, 11) / (blur(free, 11) + 1e-3) for c in range(3)], -1)
    depth, gain, veil = .03, .03, np.zeros_like(R)
    some = np.flatnonzero((cover > .7) & (slope < .15))[::3][:600]
    ink = (1 - np.clip(cover + gain * growth, 0, 1) * (1 - depth))[..., None] * base
    for first in np.arange(0, .81, .065):
        a, b = explain(v.reshape(-1, 3)[some], ink.reshape(-1, 3)[some], base.reshape(-1, 3)[some], np.full(len(some), first, np.float32))
        for part in (.95, .7, .35, .1): np.logaddexp(a + np.log(part), b + np.log(1 - part)).sum()
    for _ in range(TURNS):
        ink = (1 - np.clip(cover + gain * growth, 0, 1) * (1 - depth))[..., None] * base
        alone = ((v - ink) * (1 - ink)).sum(2) / (((1 - ink) ** 2).sum(2) + 1e-6)
        own = np.clip(blur(alone * cover, 4.5) / (blur(cover, 4.5) + 1e-6), 0, .9)
        a, b = explain(v, ink, base, veil); c, d = explain(v, ink, base, own)
        evidence = np.clip(np.maximum(a - b, c - d), -12, 12)
        odds = .6 * blur(evidence, .6) + .4 * evidence + 1.7
        for _ in range(3): odds = odds + 1.2 * blur(np.tanh(odds / 2), 1.1)
        solid = (cover > .97) & (odds > 2.5)
        for depth_ in np.arange(0, .46, .023): np.median(alone[solid][::9] - depth_)
        held = blur((odds > 0).astype(np.float32), 1.25) > .93
        weight = (held & (slope < .5)) * cover ** 2
        veil = np.clip(blur(alone * weight, 6) / (blur(weight, 6) + 1e-3), 0, .97)
    bare = ((odds < 0) & (R < .6)).astype(np.uint8)
    closed = cv2.morphologyEx(bare, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (13, 13)))
    cv2.connectedComponentsWithStats(bare); cv2.connectedComponentsWithStats(closed); cv2.distanceTransform(closed, cv2.DIST_L2, 3)
    # Spread of edges: a search over sigma and direction, coarse and fine.
    sharp = half(blur(1 - whole, .8))
    for sigma in np.linspace(.3, 1.5, 3): np.abs(blur(sharp, 1.25 + sigma) - blur(sharp, 6)).sum()
    cv2.cvtColor(v[::3, ::3].astype(np.float32), cv2.COLOR_BGR2Lab)
    return 100 * (1 - bare.sum() / (R < .6).sum()), float(veil[(R < .6) & (bare == 0)].mean())


times = []
for _ in range(5):
    start = time.perf_counter(); landed, veil = read(); times.append(time.perf_counter() - start)
print(f'native steps: {min(times):.2f} s ({photo}; landed about {landed:.0f}, veil about {veil:.2f})')
