import {
	perspectiveOf,
	placeIn,
	usualLayout,
	type CardMarks,
	type Corners,
	type PhotoMarks,
	type ScaleEnds,
	type Spot
} from '$core/picture';

/** A thing in a picture that a finger can move. */
export interface Handle {
	id: string;
	label: string;
	at: Spot;
}
/** An outline that shows what is marked: a name, its corners, whether it is closed. */
export interface Outline {
	id: string;
	name: string;
	points: Spot[];
	open?: boolean;
}

interface Size {
	width: number;
	height: number;
}

/** Left, top, right and bottom as shares of the picture, before anybody has marked anything. */
const USUAL = {
	strip: [0.1, 0.1, 0.32, 0.9],
	wheel: [0.06, 0.1, 0.5, 0.9],
	vial: [0.65, 0.48, 0.75, 0.8],
	white: [0.82, 0.48, 0.93, 0.8],
	zero: [0.6, 0.08, 0.72, 0.35]
} as const;

const boxOf = ([l, t, r, b]: readonly [number, number, number, number], { width, height }: Size): Corners => [
	{ x: l * width, y: t * height },
	{ x: r * width, y: t * height },
	{ x: r * width, y: b * height },
	{ x: l * width, y: b * height }
];

/** Marks of a card's picture before they are moved: as they were last for this kit, the strip where it was found. */
export function firstMarks(
	size: Size,
	form: 'card' | 'wheel' | 'block',
	remembered: PhotoMarks | undefined,
	strip: Corners | undefined
): CardMarks {
	const before = remembered?.of === 'shades' ? (inPixels(remembered, size) as CardMarks) : undefined;
	return {
		corners: strip ?? before?.corners ?? boxOf(form === 'wheel' ? USUAL.wheel : USUAL.strip, size),
		...(before?.layout ? { layout: before.layout } : {}),
		vial: before?.vial ?? boxOf(USUAL.vial, size),
		white: before?.white ?? boxOf(USUAL.white, size),
		...(form === 'wheel' ? { zero: before?.zero ?? boxOf(USUAL.zero, size) } : {})
	};
}

export function firstEnds({ width, height }: Size, remembered: PhotoMarks | undefined): ScaleEnds {
	if (remembered?.of === 'syringe') return inPixels(remembered, { width, height }) as ScaleEnds;
	return width > height
		? { zero: { x: 0.15 * width, y: height / 2 }, full: { x: 0.85 * width, y: height / 2 } }
		: { zero: { x: width / 2, y: 0.85 * height }, full: { x: width / 2, y: 0.15 * height } };
}

const scaledBy = (spot: Spot, x: number, y: number): Spot => ({ x: spot.x * x, y: spot.y * y });

/** Marks as shares of the picture, as they are kept with it. */
export function asShares(marks: CardMarks | ScaleEnds, { width, height }: Size): PhotoMarks {
	const share = (spot: Spot): Spot => {
		const { x, y } = scaledBy(spot, 1 / width, 1 / height);
		return { x: Number(x.toFixed(5)), y: Number(y.toFixed(5)) };
	};
	const four = (corners: Corners) => corners.map(share) as Corners;
	if ('full' in marks) return { of: 'syringe', zero: share(marks.zero), full: share(marks.full) };
	return {
		of: 'shades',
		corners: four(marks.corners),
		...(marks.layout ? { layout: marks.layout } : {}),
		vial: four(marks.vial),
		...(marks.white ? { white: four(marks.white) } : {}),
		...(marks.zero ? { zero: four(marks.zero) } : {})
	};
}

/** And back, for a picture of this size. */
export function inPixels(marks: PhotoMarks, { width, height }: Size): CardMarks | ScaleEnds {
	const pixel = (spot: Spot) => scaledBy(spot, width, height);
	const four = (corners: Corners) => corners.map(pixel) as Corners;
	if (marks.of === 'syringe') return { zero: pixel(marks.zero), full: pixel(marks.full) };
	return {
		corners: four(marks.corners),
		layout: marks.layout,
		vial: four(marks.vial),
		white: marks.white && four(marks.white),
		zero: marks.zero && four(marks.zero)
	};
}

const CORNER = [
	'at the palest patch, one side',
	'at the palest patch, other side',
	'at the deepest patch, other side',
	'at the deepest patch, one side'
];
const AREAS = { vial: 'liquid', white: 'white ground', zero: 'untreated vial' } as const;

/** What can be moved in a picture of a card. An area is moved by its middle and sized by a corner. */
export function cardHandles(marks: CardMarks): Handle[] {
	const areas = (['vial', 'white', 'zero'] as const).flatMap((id) => {
		const corners = marks[id];
		if (!corners) return [];
		return [
			{ id: `${id}.move`, label: `${AREAS[id]}, its place`, at: middleOf(corners) },
			{ id: `${id}.size`, label: `${AREAS[id]}, its size`, at: corners[2] }
		];
	});
	return [
		...marks.corners.map((at, i) => ({ id: `corner.${i}`, label: `card’s corner ${CORNER[i]}`, at })),
		...areas
	];
}
const middleOf = (c: Corners): Spot => ({ x: (c[0].x + c[2].x) / 2, y: (c[0].y + c[2].y) / 2 });

/** The marks once a handle was moved there. */
export function moved(marks: CardMarks, id: string, to: Spot): CardMarks {
	const [what, how] = id.split('.') as [string, string];
	if (what === 'corner')
		return { ...marks, corners: marks.corners.map((c, i) => (i === Number(how) ? to : c)) as Corners };
	const area = what as keyof typeof AREAS;
	const corners = marks[area]!;
	if (how === 'move') {
		const from = middleOf(corners);
		return {
			...marks,
			[area]: corners.map(({ x, y }) => ({ x: x + to.x - from.x, y: y + to.y - from.y })) as Corners
		};
	}
	const [left, top] = [corners[0].x, corners[0].y];
	const [right, bottom] = [Math.max(left + 6, to.x), Math.max(top + 6, to.y)];
	return {
		...marks,
		[area]: [corners[0], { x: right, y: top }, { x: right, y: bottom }, { x: left, y: bottom }]
	};
}

/** What is drawn over a picture of a card: its frame, where each patch is looked at, and the areas. */
export function cardOutlines(
	marks: CardMarks,
	values: number[],
	form: 'card' | 'wheel' | 'block'
): { outlines: Outline[]; patches: { at: Spot; value: number }[] } {
	const view = perspectiveOf(marks.corners);
	const layout = marks.layout ?? usualLayout(form, values.length);
	return {
		outlines: [
			{ id: 'card', name: 'card', points: marks.corners },
			...(['vial', 'white', 'zero'] as const).flatMap((id) =>
				marks[id] ? [{ id, name: AREAS[id], points: marks[id] as Spot[] }] : []
			)
		],
		patches: view ? layout.map((spot, i) => ({ at: placeIn(view, spot), value: values[i]! })) : []
	};
}
