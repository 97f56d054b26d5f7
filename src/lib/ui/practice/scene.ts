import type { Light } from '$core/photograph';
import { PAPER } from '$core/photograph';
import { seen, type Rgb } from '$core/titration';
import type { VialBench } from './vial-bench';

/** Draws a titration on a canvas: paper under the lamp, syringe or bottle, drops, vial. In its own units, scaled to the place there is. */
export const SCENE = { width: 400, height: 560 } as const;

const css = ([r, g, b]: Rgb, alpha = 1) => `rgb(${r} ${g} ${b} / ${alpha})`;
const darker = (colour: Rgb, share: number) => colour.map((v) => Math.round(v * share)) as Rgb;

const BARREL = { x: 178, width: 44, top: 40, bottom: 262 };
const TIP = { x: 200, y: 304 };
const VIAL = { x: 128, width: 144, top: 344, bottom: 540 };

/** How high the liquid stands: a vial of twice the sample is full. */
const levelOf = (bench: VialBench): number => {
	const ml = bench.recipe.sampleMl + bench.vial.ml;
	return VIAL.bottom - 12 - Math.min(1, ml / (2 * bench.kit.sampleMl)) * 170;
};
/** Which part of the scene a place belongs to. */
export const partAt = (y: number): 'syringe' | 'vial' => (y < VIAL.top - 16 ? 'syringe' : 'vial');

const papers = new Map<Light, Rgb>();
const paperIn = (light: Light): Rgb => {
	const known = papers.get(light) ?? seen(PAPER, light);
	papers.set(light, known);
	return known;
};

/** Paper and where the lamp falls on it: drawn once for a lamp and a size, for it is half of the work of a frame. */
const grounds = new Map<string, HTMLCanvasElement>();
function groundFor(light: Light, width: number, height: number): HTMLCanvasElement {
	const key = `${light} ${width}`;
	const known = grounds.get(key);
	if (known) return known;
	const canvas = Object.assign(document.createElement('canvas'), { width, height });
	const ctx = canvas.getContext('2d', { alpha: false });
	const paper = paperIn(light);
	if (ctx) {
		ctx.scale(width / SCENE.width, height / SCENE.height);
		ctx.fillStyle = css(paper);
		ctx.fillRect(0, 0, SCENE.width, SCENE.height);
		const lamp = ctx.createRadialGradient(200, 300, 60, 200, 300, 420);
		lamp.addColorStop(0, css(paper, 0));
		lamp.addColorStop(1, css(darker(paper, 0.72)));
		ctx.fillStyle = lamp;
		ctx.fillRect(0, 0, SCENE.width, SCENE.height);
	}
	grounds.clear();
	grounds.set(key, canvas);
	return canvas;
}

export function drawScene(ctx: CanvasRenderingContext2D, bench: VialBench, seconds: number): void {
	const paper = paperIn(bench.light);
	const ink = css(darker(paper, 0.22));
	const { width, height } = ctx.canvas;
	ctx.drawImage(groundFor(bench.light, width, height), 0, 0, SCENE.width, SCENE.height);

	drawVial(ctx, bench, paper, ink, seconds);
	if (bench.kit.reads === 'syringe') drawSyringe(ctx, bench, paper, ink);
	else drawBottle(ctx, bench, paper, ink);
	drawFalling(ctx, bench, paper);
}

function drawSyringe(ctx: CanvasRenderingContext2D, bench: VialBench, paper: Rgb, ink: string): void {
	const { syringe, kit } = bench;
	const yOf = (ml: number) => BARREL.bottom - (ml / kit.fillMl) * (BARREL.bottom - BARREL.top - 12);
	const edge = yOf(syringe.edge);
	const { x, width, top, bottom } = BARREL;
	// Liquid, with the air between it and the plunger.
	ctx.fillStyle = css(darker(paper, 0.86), 0.8);
	ctx.fillRect(x + 2, Math.min(bottom, edge + 9), width - 4, Math.max(0, bottom - edge - 9));
	ctx.fillRect(TIP.x - 4, bottom + 10, 8, TIP.y - bottom - 10);
	ctx.fillStyle = ink;
	ctx.globalAlpha = 0.85;
	ctx.fillRect(x + 2, edge - 12, width - 4, 12);
	ctx.globalAlpha = 0.3;
	ctx.fillRect(TIP.x - 7, Math.max(0, edge - 240), 14, Math.min(edge, 240) - 12);
	ctx.globalAlpha = 1;
	ctx.strokeStyle = ink;
	ctx.lineWidth = 1.6;
	ctx.beginPath();
	ctx.moveTo(x - 16, top - 16);
	ctx.lineTo(x + width + 16, top - 16);
	ctx.moveTo(x, top - 16);
	ctx.lineTo(x, bottom);
	ctx.lineTo(TIP.x - 5, bottom + 12);
	ctx.lineTo(TIP.x - 5, TIP.y);
	ctx.lineTo(TIP.x + 5, TIP.y);
	ctx.lineTo(TIP.x + 5, bottom + 12);
	ctx.lineTo(x + width, bottom);
	ctx.lineTo(x + width, top - 16);
	ctx.stroke();
	ctx.lineWidth = 0.8;
	ctx.fillStyle = ink;
	ctx.font = '11px "JetBrains Mono Variable", monospace';
	ctx.textAlign = 'center';
	ctx.textBaseline = 'middle';
	ctx.beginPath();
	for (let i = 0; i <= 20; i++) {
		const y = yOf((i / 20) * kit.fillMl);
		ctx.moveTo(x + width, y);
		ctx.lineTo(x + width - (i % 2 ? 8 : 15), y);
	}
	ctx.stroke();
	for (let i = 0; i <= 10; i += 2) {
		const y = yOf((i / 10) * kit.fillMl);
		ctx.save();
		ctx.translate(x + width + 15, y);
		if (kit.flipped) ctx.rotate(Math.PI);
		ctx.fillText(((i / 10) * kit.fillMl).toFixed(1), 0, 0);
		ctx.restore();
	}
	drawDropAt(ctx, TIP.x, TIP.y, syringe.hanging / syringe.dropMl, paper);
}

function drawBottle(ctx: CanvasRenderingContext2D, bench: VialBench, paper: Rgb, ink: string): void {
	ctx.save();
	ctx.translate(TIP.x, TIP.y);
	ctx.rotate((bench.slant * Math.PI) / 180);
	ctx.strokeStyle = ink;
	ctx.lineWidth = 1.8;
	const squeezed = 6 * Math.min(1, bench.syringe.speed * 4);
	ctx.beginPath();
	ctx.moveTo(-4, 0);
	ctx.lineTo(-11, -34);
	ctx.lineTo(-11, -52);
	ctx.bezierCurveTo(-46, -62, -46 + squeezed, -120, -46 + squeezed, -140);
	ctx.lineTo(-46, -238);
	ctx.lineTo(46, -238);
	ctx.lineTo(46 - squeezed, -140);
	ctx.bezierCurveTo(46 - squeezed, -120, 46, -62, 11, -52);
	ctx.lineTo(11, -34);
	ctx.lineTo(4, 0);
	ctx.closePath();
	ctx.fillStyle = css(darker(paper, 0.93), 0.9);
	ctx.fill();
	ctx.stroke();
	ctx.fillStyle = css(darker(paper, 0.78), 0.55);
	ctx.fillRect(-43, -150, 86, 40);
	ctx.restore();
	drawDropAt(ctx, TIP.x, TIP.y, bench.syringe.hanging / bench.kit.dropMl, paper);
}

function drawDropAt(ctx: CanvasRenderingContext2D, x: number, y: number, share: number, paper: Rgb): void {
	if (share < 0.04) return;
	const r = 8 * Math.cbrt(Math.min(1.2, share));
	ctx.fillStyle = css(darker(paper, 0.8), 0.9);
	ctx.strokeStyle = css(darker(paper, 0.45));
	ctx.lineWidth = 1;
	ctx.beginPath();
	ctx.moveTo(x - 3, y);
	ctx.quadraticCurveTo(x - r, y + r * 0.7, x - r * 0.8, y + r * 1.2);
	ctx.arc(x, y + r * 1.2, r * 0.8, Math.PI, 0, true);
	ctx.quadraticCurveTo(x + r, y + r * 0.7, x + 3, y);
	ctx.fill();
	ctx.stroke();
}

function drawFalling(ctx: CanvasRenderingContext2D, bench: VialBench, paper: Rgb): void {
	const level = levelOf(bench);
	ctx.fillStyle = css(darker(paper, 0.66), 0.95);
	if (bench.stream) ctx.fillRect(TIP.x - 2, TIP.y, 4, level - TIP.y);
	for (const at of bench.falling) {
		ctx.beginPath();
		ctx.arc(TIP.x, TIP.y + 8 + (level - TIP.y - 8) * at * at, 5, 0, 2 * Math.PI);
		ctx.fill();
	}
}

function drawVial(
	ctx: CanvasRenderingContext2D,
	bench: VialBench,
	paper: Rgb,
	ink: string,
	seconds: number
): void {
	const { look, swirl } = bench;
	const { x, width, bottom, top } = VIAL;
	const tilt = swirl * 7 * Math.sin(seconds * 13);
	const level = levelOf(bench);
	ctx.save();
	ctx.translate(swirl * 5 * Math.cos(seconds * 13), 0);
	ctx.beginPath();
	ctx.moveTo(x + 3, level + tilt);
	ctx.quadraticCurveTo(x + width / 2, level + 5, x + width - 3, level - tilt);
	ctx.lineTo(x + width - 3, bottom - 22);
	ctx.quadraticCurveTo(x + width - 3, bottom - 4, x + width - 20, bottom - 4);
	ctx.lineTo(x + 20, bottom - 4);
	ctx.quadraticCurveTo(x + 3, bottom - 4, x + 3, bottom - 22);
	ctx.closePath();
	ctx.fillStyle = css(look.colour);
	ctx.fill();
	ctx.clip();
	// Where the drops fall: a cloud that sinks and spreads, as far as it is not mixed in.
	const apart = Math.min(1, 3 * (1 - look.mixed) + Math.abs(look.plumeTurned - look.turned));
	if (apart > 0.02) {
		const drift = 26 * Math.sin(seconds * (1 + 5 * swirl));
		const cloud = ctx.createRadialGradient(200 + drift * swirl, level + 34, 4, 200 + drift, level + 52, 66);
		cloud.addColorStop(0, css(look.plume, Math.min(1, apart)));
		cloud.addColorStop(0.55, css(look.plume, 0.55 * apart));
		cloud.addColorStop(1, css(look.plume, 0));
		ctx.fillStyle = cloud;
		ctx.fillRect(x, level - 10, width, bottom - level + 10);
	}
	ctx.strokeStyle = css(paper, 0.7);
	ctx.lineWidth = 1.2;
	for (const b of bench.bubbles) {
		ctx.beginPath();
		ctx.arc(170 + 60 * b.x, level + 46 - 30 * b.age, 3 + 2 * b.x, 0, 2 * Math.PI);
		ctx.stroke();
	}
	ctx.restore();
	ctx.save();
	ctx.translate(swirl * 5 * Math.cos(seconds * 13), 0);
	ctx.strokeStyle = ink;
	ctx.lineWidth = 2;
	ctx.beginPath();
	ctx.moveTo(x - 6, top);
	ctx.lineTo(x, top + 8);
	ctx.lineTo(x, bottom - 22);
	ctx.quadraticCurveTo(x, bottom, x + 20, bottom);
	ctx.lineTo(x + width - 20, bottom);
	ctx.quadraticCurveTo(x + width, bottom, x + width, bottom - 22);
	ctx.lineTo(x + width, top + 8);
	ctx.lineTo(x + width + 6, top);
	ctx.stroke();
	ctx.restore();
}
