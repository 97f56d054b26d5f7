import { fork, type ChildProcess } from 'node:child_process';
import { setPriority } from 'node:os';
import { bad, type Outcome } from '../../../core/base';
import type { CleanPicture } from './clean-picture';
import { sender } from './sender';
import { fairTurns } from './turns';

/** One picture at a time, by turns: an honest one takes a tenth of a second. */
const inTurn = fairTurns({ atOnce: 1, each: 1, waitingEach: 8, waiting: 60 });
/** A picture that takes longer is made to take long, ms. */
export const LONGEST = 5000;
/** The process ends when nobody has sent a picture for so long, ms. */
const IDLE = 30_000;

let child: ChildProcess | undefined;
let idle: ReturnType<typeof setTimeout> | undefined;

function end(): void {
	clearTimeout(idle);
	child?.kill('SIGKILL');
	child = undefined;
}

function opened(filename: string): ChildProcess {
	if (child?.connected) return child;
	const made = fork(filename, {
		serialization: 'advanced',
		stdio: 'ignore',
		// What preloads into the server is nothing for it, nor are the server's secrets.
		env: { PATH: process.env['PATH'] ?? '' },
		execArgv: []
	});
	made.once('exit', () => {
		if (child === made) child = undefined;
	});
	// Pages go first.
	if (made.pid !== undefined) setPriority(made.pid, 15);
	return (child = made);
}

/**
 * A picture as it is kept, by a process of its own that is ended where it takes too long. Problems: no picture, too large. Throws
 * `Crowded` where too many wait.
 */
export async function cleanPicture(sent: Uint8Array): Promise<Outcome<CleanPicture>> {
	const filename = process.env['TEVRIK_PICTURES'];
	// Tests of the stores open what they made themselves.
	if (!filename) return (await import('./clean-picture')).cleaned(sent);
	return inTurn(sender(), async () => {
		const first = await asked(opened(filename), sent);
		// It may have died of something else than this picture: once more, and then no more.
		return first === DIED ? asked(opened(filename), sent) : first;
	});
}

const REFUSED = bad('/picture', 'cannot be read. Save it again as JPEG, and try that');
const DIED: Outcome<CleanPicture> = { ...REFUSED };

function asked(process: ChildProcess, sent: Uint8Array): Promise<Outcome<CleanPicture>> {
	clearTimeout(idle);
	return new Promise((done) => {
		const over = (outcome: Outcome<CleanPicture>) => {
			clearTimeout(limit);
			process.removeAllListeners('message');
			process.off('exit', died);
			idle = setTimeout(end, IDLE).unref();
			done(outcome);
		};
		const died = () => over(DIED);
		const limit = setTimeout(() => {
			process.off('exit', died);
			end();
			over(REFUSED);
		}, LONGEST);
		process.once('exit', died);
		process.once('message', (outcome) => over(outcome as Outcome<CleanPicture>));
		process.send(sent, (failure) => failure && died());
	});
}

/** Ends the process. */
export const closePictures = end;
