/** So far that no moment lies beyond it, ms: thirty years. */
const NEVER = 1e12;

/** How a limit stands in the tree of the simplex method. */
const [SLACK, TREE, FULL] = [1, 0, -1] as const;

/**
 * The best moments for actions whose order is settled: times `x` that make the sum of
 * `weight · max(0, x[to] − x[from] − most)` over all limits as small as it can be. What must be kept is a limit that
 * weighs more than all others together.
 *
 * That is the dual of a circulation of least cost: on each limit flows what it weighs on its two moments, at most its
 * weight, and the moments are the potentials of the nodes. Solved by the primal network simplex with strongly feasible
 * trees (Cunningham 1976), arcs priced in blocks (Ahuja, Magnanti & Orlin 1993, chapter 11). With whole numbers the
 * moments are whole. After a change it goes on from the tree it has, which costs a few pivots and not all of them.
 */
export class Timing {
  /** The moment of each node, ms; the last is the beginning of time, 0. */
  readonly x: Float64Array;
  readonly root: number;
  /** Pivots and looks at limits so far: what the work comes to, the same on every machine. */
  work = 0;
  /** How many limits there are, and with which the next look begins. */
  private readonly where = new Int32Array(2);
  private readonly from: Int32Array;
  private readonly to: Int32Array;
  private readonly most: Float64Array;
  private readonly weight: Float64Array;
  private readonly flow: Float64Array;
  private readonly state: Int8Array;
  private readonly parent: Int32Array;
  /** The limit between a node and its parent, and whether it goes up to it. */
  private readonly link: Int32Array;
  private readonly up: Int8Array;
  private readonly depth: Int32Array;
  private readonly child: Int32Array;
  private readonly after: Int32Array;
  private readonly before: Int32Array;

  /** For `nodes` moments of which none comes before `earliest[i]`, and room for so many limits. */
  constructor(earliest: readonly number[], limits: number, must: number) {
    const nodes = earliest.length;
    const room = limits + nodes;
    this.root = nodes;
    this.x = new Float64Array(nodes + 1);
    this.from = new Int32Array(room);
    this.to = new Int32Array(room);
    this.most = new Float64Array(room);
    this.weight = new Float64Array(room);
    this.flow = new Float64Array(room);
    this.state = new Int8Array(room);
    this.parent = new Int32Array(nodes + 1).fill(-1);
    this.link = new Int32Array(nodes + 1).fill(-1);
    this.up = new Int8Array(nodes + 1);
    this.depth = new Int32Array(nodes + 1);
    this.child = new Int32Array(nodes + 1).fill(-1);
    this.after = new Int32Array(nodes + 1).fill(-1);
    this.before = new Int32Array(nodes + 1).fill(-1);
    earliest.forEach((e, i) => {
      const arc = this.limit(i, this.root, -e, must);
      this.state[arc] = TREE;
      this.x[i] = e;
      this.hang(i, this.root, arc, 1);
    });
  }

  /** A limit more: `x[to] − x[from]` is at most `most`, or each unit above it costs `weight`. Its number. */
  limit(from: number, to: number, most: number, weight: number): number {
    const arc = this.where[0]++;
    if (arc >= this.from.length) throw new Error('There is no room for another limit.');
    this.from[arc] = from;
    this.to[arc] = to;
    this.most[arc] = most;
    this.weight[arc] = weight;
    this.state[arc] = SLACK;
    return arc;
  }

  /** The same limit with another distance. */
  change(arc: number, most: number): void {
    const by = most - this.most[arc];
    if (!by) return;
    this.most[arc] = most;
    if (this.state[arc] !== TREE) return;
    const [a, b] = [this.from[arc], this.to[arc]];
    if (this.parent[a] === b && this.link[a] === arc) this.shift(a, -by);
    else this.shift(b, by);
  }

  /** The limit no longer counts; it can be {@link moved} after the next {@link settle}. */
  lift(arc: number): void {
    this.change(arc, NEVER);
  }

  /** A limit that was lifted before the last {@link settle}, between other moments. */
  moved(arc: number, from: number, to: number, most: number): void {
    if (this.state[arc] !== SLACK || this.flow[arc]) throw new Error('This limit is still in use.');
    this.from[arc] = from;
    this.to[arc] = to;
    this.most[arc] = most;
  }

  /** Whether a lifted limit can be {@link moved}. */
  isIdle(arc: number): boolean {
    return this.state[arc] === SLACK && !this.flow[arc];
  }

  /** By how much limits of at least this weight are not kept, ms in all. */
  broken(must: number): number {
    let sum = 0;
    for (let a = 0; a < this.where[0]; a++)
      if (this.state[a] !== SLACK && this.weight[a] >= must)
        sum += Math.max(0, this.x[this.to[a]] - this.x[this.from[a]] - this.most[a]);
    return sum;
  }

  /** Between which two moments such a limit is broken most. */
  worst(must: number): readonly [number, number] {
    let [most, found]: [number, readonly [number, number]] = [0, [this.root, this.root]];
    for (let a = 0; a < this.where[0]; a++) {
      if (this.state[a] === SLACK || this.weight[a] < must) continue;
      const by = this.x[this.to[a]] - this.x[this.from[a]] - this.most[a];
      if (by > most) [most, found] = [by, [this.from[a], this.to[a]]];
    }
    return found;
  }

  /** Pivots until the moments are the best. */
  settle(): void {
    const { from, to, most, state, x } = this;
    const [count, next] = this.where;
    const block = Math.max(20, Math.ceil(Math.sqrt(count)));
    let clean = 0;
    let arc = next < count ? next : 0;
    while (clean < count) {
      let best = -1;
      let worst = -1e-6;
      const end = Math.min(block, count);
      for (let i = 0; i < end; i++) {
        const s = state[arc];
        if (s) {
          const slack = s * (most[arc] - x[to[arc]] + x[from[arc]]);
          if (slack < worst) {
            worst = slack;
            best = arc;
          }
        }
        if (++arc === count) arc = 0;
      }
      this.work += end;
      clean += end;
      if (best < 0) continue;
      this.pivot(best);
      clean = 0;
    }
    this.where[1] = arc;
  }

  /** What is needed to come back to where it is now. */
  saved(into: Timing['arrays'] = this.arrays.map(a => a.slice())): Timing['arrays'] {
    this.arrays.forEach((a, i) => {
      into[i].set(a as never);
    });
    return into;
  }

  restore(from: Timing['arrays']): void {
    this.arrays.forEach((a, i) => {
      a.set(from[i] as never);
    });
  }

  private get arrays() {
    const { where, x, from, to, most, flow, state, parent, link, up, depth, child, after, before } = this;
    return [where, x, from, to, most, flow, state, parent, link, up, depth, child, after, before];
  }

  private pivot(entering: number): void {
    const { parent, link, up, depth, flow, weight, from, to } = this;
    const way = this.state[entering];
    const first = way === SLACK ? from[entering] : to[entering];
    const second = way === SLACK ? to[entering] : from[entering];
    let a = first;
    let b = second;
    while (a !== b)
      if (depth[a] > depth[b]) a = parent[a];
      else if (depth[b] > depth[a]) b = parent[b];
      else {
        a = parent[a];
        b = parent[b];
      }
    const join = a;
    let most = weight[entering];
    let out = -1;
    let side = first;
    for (let u = first; u !== join; u = parent[u]) {
      const arc = link[u];
      const room = up[u] ? flow[arc] : weight[arc] - flow[arc];
      if (room < most) [most, out, side] = [room, u, first];
      this.work++;
    }
    // The last one that blocks leaves, seen from the join: that keeps the tree strongly feasible, so no circle of pivots.
    for (let u = second; u !== join; u = parent[u]) {
      const arc = link[u];
      const room = up[u] ? weight[arc] - flow[arc] : flow[arc];
      if (room <= most) [most, out, side] = [room, u, second];
      this.work++;
    }
    if (most > 0) {
      flow[entering] += way * most;
      for (let u = first; u !== join; u = parent[u]) flow[link[u]] += up[u] ? -most : most;
      for (let u = second; u !== join; u = parent[u]) flow[link[u]] += up[u] ? most : -most;
    }
    if (out < 0) {
      this.state[entering] = -way;
      return;
    }
    const leaving = link[out];
    this.state[leaving] = flow[leaving] === 0 ? SLACK : FULL;
    this.state[entering] = TREE;
    const slack = this.most[entering] - this.x[to[entering]] + this.x[from[entering]];
    const goesUp = from[entering] === side;
    this.reroot(side, out, side === first ? second : first, entering, goesUp ? 1 : 0);
    this.shift(side, goesUp ? -slack : slack);
  }

  /** Turns the path from `node` up to `top` around and hangs it below another parent. */
  private reroot(node: number, top: number, parent: number, arc: number, up: 0 | 1): void {
    let [u, above, link, way] = [node, parent, arc, up as number];
    for (;;) {
      const [nextUp, nextLink, nextWay] = [this.parent[u], this.link[u], this.up[u]];
      this.cut(u);
      this.hang(u, above, link, way);
      if (u === top) return;
      [above, link, way, u] = [u, nextLink, nextWay ? 0 : 1, nextUp];
    }
  }

  private cut(u: number): void {
    const { before, after, child } = this;
    if (before[u] >= 0) after[before[u]] = after[u];
    else child[this.parent[u]] = after[u];
    if (after[u] >= 0) before[after[u]] = before[u];
  }

  private hang(u: number, above: number, arc: number, way: number): void {
    const next = this.child[above];
    this.parent[u] = above;
    this.link[u] = arc;
    this.up[u] = way;
    this.before[u] = -1;
    this.after[u] = next;
    if (next >= 0) this.before[next] = u;
    this.child[above] = u;
    this.depth[u] = this.depth[above] + 1;
  }

  /** Moves all moments of a branch, and says anew how deep they hang. */
  private shift(top: number, by: number): void {
    const { child, after, parent, depth, x } = this;
    let u = top;
    depth[u] = depth[parent[u]] + 1;
    x[u] += by;
    for (;;) {
      this.work++;
      if (child[u] >= 0) u = child[u];
      else {
        while (u !== top && after[u] < 0) u = parent[u];
        if (u === top) return;
        u = after[u];
      }
      x[u] += by;
      depth[u] = depth[parent[u]] + 1;
    }
  }
}
