import { expect, it } from 'vitest';
import { placeOf } from './attempts';

it.each([
	['192.0.2.7', '192.0.2.7'],
	['::ffff:192.0.2.7', '192.0.2.7'],
	['2001:db8:1:2:aaaa:bbbb:cccc:dddd', '2001:db8:1:2::/64'],
	['2001:db8:1:2::1', '2001:db8:1:2::/64'],
	['::1', '0:0:0:0::/64'],
	['not an address', 'not an address']
])('%s is at %s', (address, place) => expect(placeOf(address)).toBe(place));
