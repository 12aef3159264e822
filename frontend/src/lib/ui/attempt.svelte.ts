/** What a person asked for: whether it is being done, and what went wrong with it. */
export class Attempt {
	problem = $state('');
	busy = $state(false);

	/** Do it; what goes wrong is kept, to be told. Says whether it was done. */
	async at(work: () => unknown): Promise<boolean> {
		[this.problem, this.busy] = ['', true];
		try {
			await work();
			return true;
		} catch (e) {
			this.failed(e);
			return false;
		} finally {
			this.busy = false;
		}
	}
	failed = (e: unknown) => void (this.problem = (e as Error).message);
}
