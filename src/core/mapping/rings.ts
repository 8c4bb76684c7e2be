/** Where each spot of a map lies: in rings around the entry, beneath the spot that it is come to from, clear of the others. */
import { type HierarchyNode, stratify, tree } from 'd3-hierarchy';
import type { Spot } from './grouped.ts';

/** Between two spots of a ring, and between two rings at least; the radius of a spot. */
const GAP = 10;
const MANY = { ring: 165, smallest: 6, largest: 34 };
/** Few have room. */
const FEW = { ring: 190, smallest: 12, largest: 60 };
const MOST_FEW = 24;

/** True for so few that names can stand upright. */
export function areFew(spots: readonly Spot[]): boolean {
  return spots.length <= MOST_FEW;
}

export interface PlacedSpot extends Spot {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  /** Radians, 0 to the right, clockwise. */
  readonly angle: number;
}

export interface Rings {
  readonly spots: readonly PlacedSpot[];
  /** The radius of each ring, from the first click on. */
  readonly radii: readonly number[];
}

/** `spots` begin with the entry, at the centre: (0, 0). */
export function inRings(spots: readonly Spot[]): Rings {
  if (spots.length === 0) return { spots: [], radii: [] };
  const heaviest = Math.max(1, ...spots.map(({ weight }) => weight));
  // The area says how heavy a page is.
  const { ring: step, smallest, largest } = areFew(spots) ? FEW : MANY;
  const radiusOf = ({ weight }: Spot) => Math.max(smallest, Math.sqrt(weight / heaviest) * largest);
  const angles = anglesOf(spots);
  const rings = Math.max(...spots.map(({ ring }) => ring));
  const radii: number[] = [];
  const placed: PlacedSpot[] = [];
  for (let ring = 0; ring <= rings; ring++) {
    const own = spots.filter((spot) => spot.ring === ring);
    const room = own.reduce((sum, spot) => sum + 2 * radiusOf(spot) + GAP, 0);
    const inner = ring === 0 ? 0 : Math.max((radii[ring - 2] ?? 0) + step, room / (2 * Math.PI));
    if (ring > 0) radii.push(inner);
    const around = ring === 0 ? own.map(() => 0) : apart(own, angles, inner, radiusOf);
    for (const [index, spot] of own.entries()) {
      const angle = around[index] as number;
      placed.push({
        ...spot,
        angle,
        radius: radiusOf(spot),
        x: inner * Math.cos(angle),
        y: inner * Math.sin(angle),
      });
    }
  }
  return { spots: placed, radii };
}

/** The angle of each spot where only the lines count. */
function anglesOf(spots: readonly Spot[]): ReadonlyMap<string, number> {
  const root = stratify<Spot>()
    .id(({ id }) => id)
    .parentId(({ from }) => from)([...spots]);
  const layout = tree<Spot>()
    .size([2 * Math.PI, 1])
    .separation((one, other) => (one.parent === other.parent ? 1 : 2) / Math.max(one.depth, 1));
  const angles = new Map<string, number>();
  layout(root).each((node: HierarchyNode<Spot> & { x: number }) => {
    angles.set(node.data.id, node.x - Math.PI / 2);
  });
  return angles;
}

/** Moves the spots of a ring apart, as little as it takes; their order stays. */
function apart(
  spots: readonly Spot[],
  angles: ReadonlyMap<string, number>,
  ring: number,
  radiusOf: (spot: Spot) => number,
): number[] {
  const halves = spots.map((spot) => (radiusOf(spot) + GAP / 2) / ring);
  const order = spots.map((_spot, index) => index);
  const wanted = spots.map(({ id }) => angles.get(id) ?? 0);
  order.sort((one, other) => (wanted[one] as number) - (wanted[other] as number));
  // Spots that touch move as one block, to where all of them together want to be.
  const blocks: { members: number[]; start: number; length: number }[] = [];
  for (const index of order) {
    const half = halves[index] as number;
    let block = { members: [index], start: (wanted[index] as number) - half, length: 2 * half };
    for (let last = blocks.at(-1); last !== undefined; last = blocks.at(-1)) {
      if (last.start + last.length <= block.start) break;
      blocks.pop();
      const members = [...last.members, ...block.members];
      block = { members, start: startOf(members, wanted, halves), length: last.length + block.length };
    }
    blocks.push(block);
  }
  const found: number[] = spots.map(() => 0);
  for (const { members, start } of blocks) {
    let at = start;
    for (const member of members) {
      const half = halves[member] as number;
      found[member] = at + half;
      at += 2 * half;
    }
  }
  return found;
}

function startOf(members: readonly number[], wanted: readonly number[], halves: readonly number[]): number {
  let [sum, at] = [0, 0];
  for (const member of members) {
    const half = halves[member] as number;
    sum += (wanted[member] as number) - (at + half);
    at += 2 * half;
  }
  return sum / members.length;
}
