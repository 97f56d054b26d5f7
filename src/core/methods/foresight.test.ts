import { expect, it } from 'vitest';
import { slowDownAt } from './foresight';
import { SHIPPED_METHODS } from './shipped';

const of = (id: string) => SHIPPED_METHODS.find((m) => m.id === id)!;

it('says where to slow down, in the kit’s own convention', () => {
	// Turned at 0.40 left: 0.60 used, of which 0.6 go in quickly: 0.36, which leaves 0.64.
	expect(slowDownAt(of('alk-syringe-6'), { left: 0.4 }, 0.6)).toMatchObject({ readAs: 'left', fullFirst: 0 });
	expect(slowDownAt(of('alk-syringe-6'), { left: 0.4 }, 0.6)!.slowAt).toBeCloseTo(0.64);
	// Two full and 0.5: 2.5 used, 1.5 quickly: one full syringe and half of the next.
	const many = slowDownAt(of('alk-syringe-4-used'), { used: 0.5, refills: 2 }, 0.6)!;
	expect(many.fullFirst).toBe(1);
	expect(many.slowAt).toBeCloseTo(0.5);
	// A half sample turned at 0.30 used: a full one takes 0.60.
	expect(slowDownAt(of('alk-syringe-6'), { left: 0.7 }, 0.6, 'half')!.slowAt).toBeCloseTo(0.64);
	expect(slowDownAt(of('alk-syringe-6'), { left: [0.4, 0.44] }, 0.6)).toBeUndefined();
	expect(slowDownAt(of('ca-drops'), { drops: 20 }, 0.6)).toBeUndefined();
});
