import { bad, good, type Outcome } from '$core/base';

/** A camera that runs, the rear one where there are two. */
export interface Camera {
	stream: MediaStream;
	/** Its lamp, where it has one. */
	torch: ((on: boolean) => Promise<void>) | undefined;
	close: () => void;
}
type Torch = { torch?: boolean };

/** Opens the rear camera. A refusal, or a device without one, is a sentence. */
export async function openCamera(): Promise<Outcome<Camera>> {
	const devices = navigator.mediaDevices as MediaDevices | undefined;
	if (!devices?.getUserMedia)
		return bad('', 'This browser gives no camera to this page (it needs https). Choose a picture instead.');
	try {
		const stream = await devices.getUserMedia({
			video: { facingMode: { ideal: 'environment' }, width: { ideal: 1920 }, height: { ideal: 1440 } },
			audio: false
		});
		const [track] = stream.getVideoTracks();
		const can = (track?.getCapabilities?.() ?? {}) as Torch;
		return good({
			stream,
			torch: can.torch
				? (on) => track!.applyConstraints({ advanced: [{ torch: on } as MediaTrackConstraintSet] })
				: undefined,
			close: () => stream.getTracks().forEach((t) => t.stop())
		});
	} catch (failure) {
		return bad(
			'',
			REFUSED[(failure as DOMException).name] ?? 'The camera does not start. Choose a picture instead.'
		);
	}
}

const REFUSED: Record<string, string> = {
	NotAllowedError:
		'The camera was not allowed. Allow it for this page in the browser’s settings, or choose a picture instead.',
	NotFoundError: 'No camera was found here. Choose a picture instead.',
	NotReadableError: 'Something else is using the camera. Close it there, or choose a picture instead.',
	OverconstrainedError: 'No camera here fits. Choose a picture instead.'
};

/** So many frames make one still: noise goes down to less than half. */
const FRAMES = 6;

/** Frames of one moment, one after the other as the camera gives them. */
export async function framesOf(video: HTMLVideoElement): Promise<ImageBitmap[]> {
	const frames: ImageBitmap[] = [];
	for (let i = 0; i < FRAMES; i++) {
		frames.push(await createImageBitmap(video));
		await new Promise((next) =>
			video.requestVideoFrameCallback ? video.requestVideoFrameCallback(next) : requestAnimationFrame(next)
		);
	}
	return frames;
}
