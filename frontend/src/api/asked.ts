/**
 * Questions of one kind to the server. Their answers may come in another order than they were asked in:
 * what was asked for later stays. Each answers `undefined` when it was overtaken, and then its failure is nobody's business either.
 */
export class Asked {
	#last = 0;
	#shown = 0;

	/** The answer, unless a question that was asked later has been answered: on a slow line something is shown meanwhile. */
	newest<T>(question: Promise<T>): Promise<T | undefined> {
		return this.#take(question, (mine) => mine >= this.#shown);
	}

	/** The answer, unless anything was asked since: for what must fit what is typed or picked now. */
	only<T>(question: Promise<T>): Promise<T | undefined> {
		return this.#take(question, (mine) => mine === this.#last);
	}

	/** The answer to a change. What was asked before it came may have been answered from before the change, and counts no more. */
	async changed<T>(change: Promise<T>): Promise<T> {
		const answer = await change;
		this.forget();
		return answer;
	}

	/** No answer to what was asked so far is wanted any more. */
	forget() {
		this.#shown = ++this.#last;
	}

	async #take<T>(question: Promise<T>, wanted: (mine: number) => boolean): Promise<T | undefined> {
		const mine = ++this.#last;
		try {
			const answer = await question;
			if (!wanted(mine)) return undefined;
			this.#shown = mine;
			return answer;
		} catch (problem) {
			if (wanted(mine)) throw problem;
			return undefined;
		}
	}
}
