"""The best schedules that a solver of another kind (CP-SAT of OR-Tools, `pip install ortools`) finds for the days of work
of `benchmarks/instances.ts`, beginning from ours: what `npm run bench -- schedule` compares with.

  DATA=instances.json npm run bench -- schedule
  python3 docs/reference/schedule_best.py instances.json 40 > benchmarks/schedule-best.json

Times in seconds, rounded; no batches. Prints cost and proved bound in minutes for each instance.
"""

import json
import math
import sys

from ortools.sat.python import cp_model

FAR = 10**7


def solve(day, seconds):
    model = cp_model.CpModel()
    nodes = day["nodes"]
    horizon = int(max(day["hint"]) * 1.05 + 3600)
    there = [(max(0, math.ceil(a)), min(horizon, math.floor(b))) for a, b in day["there"] if a <= horizon]
    start, hands, busy, terms = [], [], [], []

    def within(spans):
        return cp_model.Domain.from_intervals([list(s) for s in spans if s[0] <= s[1]])

    for node in nodes:
        long = round(node["p"])
        lo, hi = math.ceil(node["from"]), math.floor(node["to"])
        x = model.new_int_var_from_domain(within([(max(a, lo), min(b - long, hi)) for a, b in there]), "")
        start.append(x)
        hands.append(long)
        busy.append(model.new_fixed_size_interval_var(x, long, ""))
    end = model.new_int_var(0, horizon + 10**4, "end")
    terms.append(end)
    for x, long in zip(start, hands):
        model.add(end >= x + long)

    def off(moment, aim, until):
        by = model.new_int_var(0, FAR, "")
        model.add(by >= round(aim) - moment)
        model.add(by >= moment - round(min(FAR, until)))
        terms.append(by)

    for x, node in zip(start, nodes):
        if node["aim"] is not None:
            off(x, node["aim"], node["until"])
    for w in day["waits"]:
        wait = start[w["a"]] - start[w["b"]] - hands[w["b"]]
        model.add(wait >= math.ceil(w["min"]))
        if w["max"] is not None:
            model.add(wait <= math.floor(min(FAR, w["max"])))
        if w["aim"] is not None:
            off(wait, w["aim"], w["until"])
    for a, b in day["turns"]:
        model.add(start[a] <= start[b])

    users = [i for i, node in enumerate(nodes) if node["brush"]]
    if len({nodes[i]["brush"] for i in users}) > 1 and day["wash"]:
        long = round(day["wash"])
        arcs = []
        for a, i in enumerate(users):
            arcs += [(0, a + 1, model.new_bool_var("")), (a + 1, 0, model.new_bool_var(""))]
            wash = model.new_int_var_from_domain(within([(p, q - long) for p, q in there]), "")
            washed = model.new_bool_var("")
            busy.append(model.new_optional_fixed_size_interval_var(wash, long, washed, ""))
            model.add(wash + long <= start[i]).only_enforce_if(washed)
            other = []
            for b, j in enumerate(users):
                if i == j:
                    continue
                follows = model.new_bool_var("")
                arcs.append((b + 1, a + 1, follows))
                model.add(start[i] >= start[j] + hands[j]).only_enforce_if(follows)
                if nodes[j]["brush"] != nodes[i]["brush"]:
                    model.add(wash >= start[j] + hands[j]).only_enforce_if(follows)
                    other.append(follows)
            model.add(sum(other) == washed)
        model.add_circuit(arcs)
    model.add_no_overlap(busy)

    places = {}
    for stay in day["stays"]:
        places.setdefault(stay["place"], []).append(stay)
    for place, stays in places.items():
        if place not in day["places"]:
            continue
        lying = []
        for stay in stays:
            if "leaves" in stay and "enters" in stay:
                long = model.new_int_var(0, horizon, "")
                lying.append(model.new_interval_var(start[stay["enters"]], long, start[stay["leaves"]], ""))
            elif "enters" in stay:
                lying.append(busy[stay["enters"]])
        model.add_cumulative(lying, [1] * len(lying), day["places"][place])
    model.minimize(sum(terms))
    for x, hint in zip(start, day["hint"]):
        model.add_hint(x, round(hint))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = 2
    solver.solve(model)
    return round(solver.objective_value / 60, 3), round(solver.best_objective_bound / 60, 3)


best = {}
for day in json.load(open(sys.argv[1])):
    cost, bound = solve(day, float(sys.argv[2]))
    best[day["name"]] = {"cost": cost, "bound": bound}
    print(day["name"], cost, bound, file=sys.stderr, flush=True)
print(json.dumps(best, indent=1))
