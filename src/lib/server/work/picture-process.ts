import { cleaned } from './clean-picture';

/** A process that opens pictures and nothing else: whatever is wrong with one, it is this process that stands still or dies. */
process.on('message', (picture: Uint8Array) => {
	void cleaned(picture).then((outcome) => process.send!(outcome));
});
process.on('disconnect', () => process.exit());
