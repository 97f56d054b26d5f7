import type { Component } from 'svelte';
import type { Parameter } from '$core/catalogue';
import type { Method, RawReading } from '$core/instruments';
import type { Outcome } from '$core/base';
import type { Draft } from './draft';
import type { ReaderView } from './reader-session';

/** What stands before its keeper: its picture, to be moved and set. */
export interface FaceProps<M extends Method = Method> {
	method: M;
	draft: Draft;
	view: ReaderView;
	/** Its digits stand upside down before its keeper. */
	flipped: boolean;
	/** What it says is told to nobody. */
	hidden: boolean;
	/** What it says, for who does not see it. */
	spoken: string;
	onchange: (part: Partial<Draft>) => void;
}

/** What belongs to a reading by this kind alone. */
export interface PartProps<M extends Method = Method> {
	method: M;
	parameter: Parameter;
	draft: Draft;
	view: ReaderView;
	flipped: boolean;
	/** The text comes from what was moved, not from what was typed. */
	moved: boolean;
	onchange: (part: Partial<Draft>) => void;
	onflip: (flipped: boolean) => void;
}

/** One kind of instrument in the reader: how it is drawn, typed and set. The twin of core's `Instrument`. */
export interface InstrumentView<M extends Method = Method, R extends RawReading = RawReading> {
	Face: Component<FaceProps<M>>;
	/** Above what belongs to every reading: which convention it is read by. */
	Convention?: Component<PartProps<M>>;
	/** Among what belongs to every reading: more fields. */
	Fields?: Component<PartProps<M>>;
	/** Beside the answer: what was read for it. */
	Note?: Component<Omit<PartProps<M>, 'moved' | 'flipped' | 'onchange' | 'onflip'>>;
	/** The field beside it that it is typed in: what it is called, and an example in it. None where its face is that field. */
	entry?: { label: (draft: Draft) => string; example: string; inputmode: 'decimal' | 'text' };
	/** The ways in which it may be typed. */
	hint: string;
	/** As high as the page, or as it needs. */
	height: 'page' | 'own';
	/** On a phone: beside the answer, or below it and as wide as the screen. */
	onPhone: 'beside' | 'below';
	/** Whether it can be read from a picture. */
	pictured: boolean;
	/** What differs from an empty draft. */
	fresh?(method: M): Partial<Draft>;
	/** What was typed and set, as a raw reading. Problems: what was typed is not understood. */
	read(method: M, draft: Draft): Outcome<R>;
	/** A raw reading as typed; in the instrument's own numbers where no method is named. */
	typed(reading: R, method?: M): Partial<Draft>;
}
