import { execFileSync, spawn } from 'node:child_process';
import type { Place } from '../../scripts/galera';

/** A machine behind a cable, both made up: addresses of the range for measurements (RFC 2544). */
const NEAR = '198.18.0.1';
const FAR = '198.18.0.2';
const CABLE = 'tevrik-cable';

export interface Apart {
	/** What runs at either end of the cable. */
	near: Place;
	far: Place;
	/** Pulls the cable, or plugs it in: nobody hears that a connection ended. */
	cable(plugged: boolean): void;
	end(): void;
}

/**
 * A network of its own for one process, joined to this machine's by a pair of interfaces. It goes when this process and whatever runs in it have
 * ended. Undefined where this user may make none.
 */
export async function apart(): Promise<Apart | undefined> {
	if (process.getuid!() !== 0) return undefined;
	const holder = spawn('unshare', ['--net', 'sh', '-c', 'echo made; exec cat'], {
		stdio: ['pipe', 'pipe', 'inherit']
	});
	const made = await new Promise<boolean>((done) => {
		holder.stdout.once('data', () => done(true));
		holder.once('exit', () => done(false));
	});
	if (!made) return undefined;
	const within = ['nsenter', `--net=/proc/${holder.pid}/ns/net`];
	const ip = (words: string, inside: string[] = []) => {
		const [program, ...given] = [...inside, 'ip', ...words.split(' ')];
		execFileSync(program!, given);
	};
	ip(`link add ${CABLE} type veth peer name ${CABLE} netns ${holder.pid}`);
	for (const [address, inside] of [
		[NEAR, []],
		[FAR, within]
	] as const) {
		ip('link set lo up', [...inside]);
		ip(`addr add ${address}/30 dev ${CABLE}`, [...inside]);
		ip(`link set ${CABLE} up`, [...inside]);
	}
	return {
		near: { address: NEAR, within: [] },
		far: { address: FAR, within },
		cable: (plugged) => ip(`link set ${CABLE} ${plugged ? 'up' : 'down'}`, within),
		end: () => holder.stdin.end()
	};
}
