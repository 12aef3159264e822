/** What is asked again and again waits for its answers. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { repeated } from './again';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('does not pile up on a slow line, takes a late answer for lost, and goes on after a failure', async () => {
	const answers: ((how: 'came' | 'failed') => void)[] = [];
	const ask = vi.fn(() => new Promise<void>((come, fail) => answers.push((how) => (how === 'came' ? come() : fail(new Error('gone'))))));
	const failed = vi.fn();
	process.once('unhandledRejection', failed);
	const stop = repeated(500, ask);
	await vi.advanceTimersByTimeAsync(3000);
	expect(ask).toHaveBeenCalledTimes(1); // the first is not answered yet
	answers[0]!('came');
	await vi.advanceTimersByTimeAsync(1000);
	expect(ask).toHaveBeenCalledTimes(2);
	await vi.advanceTimersByTimeAsync(15_500);
	expect(ask).toHaveBeenCalledTimes(3); // the second is taken for lost
	answers[1]!('came'); // late: the third is still awaited
	await vi.advanceTimersByTimeAsync(1000);
	expect(ask).toHaveBeenCalledTimes(3);
	answers[2]!('failed');
	await vi.advanceTimersByTimeAsync(500);
	expect(ask).toHaveBeenCalledTimes(4);
	stop();
	answers[3]!('came');
	await vi.advanceTimersByTimeAsync(2000);
	expect(ask).toHaveBeenCalledTimes(4);
	expect(failed).not.toHaveBeenCalled();
});
