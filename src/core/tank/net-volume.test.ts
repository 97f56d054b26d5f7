import { describe, expect, it } from 'vitest';
import { netVolume } from './net-volume';

describe('net volume', () => {
	it('takes rock and sand off what the glass and the sump hold', () => {
		const bare = netVolume({ lengthCm: 100, widthCm: 50, depthCm: 50 });
		const full = netVolume({ lengthCm: 100, widthCm: 50, depthCm: 50, sumpL: 40, rockKg: 25, sandKg: 29.3 });
		expect(bare.ok && bare.value.netVolumeL).toBeCloseTo(250, 9);
		// 25 kg of rock at 2.5 kg/L and 29.3 kg of sand at 2.93 kg/L displace 10 L each.
		expect(full.ok && full.value.netVolumeL).toBeCloseTo(270, 9);
		expect(full.ok && bare.ok && full.value.standardUncertainty > bare.value.standardUncertainty).toBe(true);
	});
	it('refuses more rock than tank', () => {
		expect(netVolume({ lengthCm: 30, widthCm: 30, depthCm: 30, rockKg: 70 })).toMatchObject({
			ok: false,
			problems: [{ path: '/rockKg' }]
		});
	});
});
