#!/usr/bin/env python3
"""How true `npm run read` was: score.py TRUTH.json READ.json [-v]. Prints the figures of docs/READINGS.md's table."""
import json, sys
import numpy as np


def main():
    truth = {t['file']: t for t in json.load(open(sys.argv[1]))}
    read = {r['file'].split('/')[-1]: r for r in json.load(open(sys.argv[2]))}
    verbose = '-v' in sys.argv
    rows = []
    for f, t in truth.items():
        if f not in read: continue
        if 'patches' in t:
            by = {p['code']: p for p in read[f].get('patches', [])}
            for p in t['patches']: rows.append((f + ' ' + p['code'], {**p, 'usable': True, 'turn': 0, 'mirrored': False}, by.get(p['code'], {'ok': False, 'refusal': read[f].get('refusal', '?')})))
        else: rows.append((f, t, read[f]))
    usable = [r for r in rows if r[1]['usable']]; bad = [r for r in rows if not r[1]['usable']]
    refused = [r for r in usable if not r[2]['ok']]; let = [r for r in bad if r[2]['ok']]
    print(f'{len(rows)} photos or patches; usable refused {len(refused)} of {len(usable)}; unusable let through {len(let)} of {len(bad)}')
    for f, _, r in refused: print('   refused', f, r['refusal'].get('say') if isinstance(r['refusal'], dict) else r['refusal'])
    for f, _, r in let: print('   let through', f, r['landed'])
    ok = [r for r in usable if r[2]['ok']]

    def errors(name, of, inside=None, give=None):
        e, held, lines = [], [], []
        for f, t, r in ok:
            if of(t) is None or r.get(name) is None: continue
            d = r[name] - of(t); e.append(abs(d)); lines.append((abs(d), f, of(t), r[name], r.get(give) if give else None))
            if give and r.get(give) is not None: held.append(abs(d) <= r[give])
        if not e: return print(f'{name}: none')
        print(f'{name}: n {len(e)} median {np.median(e):.3f} p90 {np.percentile(e, 90):.3f} worst {max(e):.2f}' + (f' ± holds {100 * np.mean(held):.0f} %' if held else ''))
        if verbose:
            for d, f, a, b, g in sorted(lines, reverse=True)[:10]: print(f'    {f}: true {a:.3f} read {b:.3f}' + (f' ± {g}' if g else ''))

    errors('landed', lambda t: t['landed'], give='landedGive')
    errors('veil', lambda t: None if t['kind'] == 'wet' else t['veil'], give='veilGive')
    errors('smear', lambda t: t['smear'], give='smearGive')
    errors('tone', lambda t: t.get('tone'), give='toneGive')
    errors('deltaL', lambda t: t.get('deltaL')); errors('deltaC', lambda t: t.get('deltaC'))
    errors('stain', lambda t: t.get('stain'))
    tp = fp = fn = right = 0; area = []
    bad_f1 = {}
    for f, t, r in ok:
        want = [b for b in t['bare']]; got = list(r['bare']); used = set(); a = [0, 0, 0]
        for b in want:
            if b['area'] < 2: continue
            rad = max(1.5, np.sqrt(b['area'] / np.pi) * 1.2)
            c = [(np.hypot(g['x'] - b['x'], g['y'] - b['y']), i) for i, g in enumerate(got) if i not in used]
            c = [q for q in c if q[0] < rad and .4 < got[q[1]]['area'] / b['area'] < 2.5]
            if c:
                i = min(c)[1]; used.add(i); tp += 1; a[0] += 1; area.append(abs(got[i]['area'] / b['area'] - 1)); right += got[i]['shape'] == b['shape']
            else: fn += 1; a[2] += 1
        for i, g in enumerate(got):
            if i in used or g['area'] < 2: continue
            if any(np.hypot(g['x'] - b['x'], g['y'] - b['y']) < max(1.5, np.sqrt(b['area'] / np.pi) * 1.2) and b['area'] > 1.4 for b in want if b['area'] < 2): continue
            fp += 1; a[1] += 1
        if a[1] + a[2]: bad_f1[f] = a
    if tp + fp + fn: print(f'bare ≥ 2 mm²: F1 {2 * tp / max(1, 2 * tp + fp + fn):.3f} (tp {tp} fp {fp} fn {fn}), area off {np.median(area) if area else 0:.3f}, shape right {right}/{tp}')
    if verbose:
        for f, a in sorted(bad_f1.items(), key=lambda q: -q[1][1] - q[1][2])[:12]: print('    ', f, 'tp fp fn', a)
    wrong = [f for f, t, r in ok if t['kind'] != 'wet' and (bool(r['mirrored']) != t['mirrored'] or r['turn'] != t['turn'])]
    print('turned or mirrored wrong:', len(wrong), wrong[:6])


main()
