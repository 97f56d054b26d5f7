import type { Component, Snippet } from 'svelte';
import type { ChartResult } from '$core/calibration';
import type { CommonMethod, Kind, Method, Step } from '$core/instruments';
import type { Row } from '$lib/ui/shelf/chart-rows';

/** A kit as it is being put on the shelf; all typed, so that nothing is lost by a reload. */
export interface KitDraft {
	/** How its instrument looks: an id of its kind's `looks`. */
	look: string;
	parameter: string;
	/** Which of several templates. */
	template: string;
	unit: string;
	name: string;
	sampleMl: string;
	fillMl: string;
	/** What the leaflet says its readings are; '' where that follows from the lines. */
	readAs: '' | 'left' | 'used';
	rows: Row[];
	/** Lines of an unusual chart that were looked at again. */
	checked?: string;
	/** Values of the patches, palest first. */
	patches: string;
	/** Values of a second column beside the same patches, where there is one. */
	second?: string;
	/** What one drop stands for, where the leaflet says that in place of a table. */
	perDrop?: string;
	/** Which other answer is taken away from its total; as the template where nothing was said, none where ''. */
	takeAway?: string;
	/** Its steps, once they are other than the template's. */
	steps?: Step[];
	/** The template's steps are those of its leaflet. */
	sameSteps?: boolean;
}

/** What the fields of a method stand in. */
export interface EditProps<M extends Method = Method> {
	method: M;
	/** Those of its parameter. */
	units: string[];
	field: Snippet<
		[
			label: string,
			value: string | number | undefined,
			path: string,
			onset: (text: string) => void,
			hint?: string
		]
	>;
	/** What is wrong at a path. */
	said: Snippet<[path: string]>;
	onchange: (part: Partial<M>) => void;
	/** The scale is another, and so the keeper's own. */
	onscale: (part: Partial<M>) => void;
}

/** What a kit that comes onto the shelf is typed in. */
export interface KitProps<M extends Method = Method> {
	draft: KitDraft;
	/** The kit as it would stand on the shelf. */
	profile: M;
	/** Whether its chart counts by now. */
	ownChart: boolean;
	said: Snippet<[path: string]>;
	set: (part: Partial<KitDraft>) => void;
}

/** One kind of instrument on the shelf: how keepers tell it apart, and how its methods are typed. Loaded where they are. */
export interface InstrumentEditor<M extends Method = Method> {
	/** Its button in the form of a method. */
	title: string;
	/** How keepers tell them apart, and what each is drawn like. */
	looks: readonly { id: string; title: string; hint: string }[];
	Drawing: Component<{ look: string }>;
	lookOf?(method: M): string;
	/** The fields of what it is read by. */
	Fields: Component<EditProps<M>>;
	/** What is typed of its chart as it comes onto the shelf, and what else. */
	Chart: Component<KitProps<M>>;
	More?: Component<KitProps<M>>;
	/** What to type where the scale is a template's. */
	typeOwn: string;
	/** Which part of a method is its scale: another one is another chart. */
	scaleOf(method: M): unknown;
	/** A method to begin with. */
	begin(common: Omit<CommonMethod, 'reads'>): M;
	/** The template as a draft of a kit changes it; a chart of lines apart. */
	kit(template: M, draft: KitDraft): M;
	/** Where its leaflet has lines of a reading and a value. */
	lined?: {
		reads: Extract<Kind, 'syringe' | 'drops'>;
		fillMl(method: M): number;
		/** The method by the chart through its lines. */
		charted(method: M, fit: ChartResult, lines: [number, number][]): M;
		/** The method by what the leaflet says in place of lines, where it does. */
		withoutLines?(method: M, draft: KitDraft): M | undefined;
	};
}
