/** How sharply a moving view can be drawn on this machine: as sharply as frames keep coming in time. */

const PIXELS = [0.2, 0.25, 0.3, 0.4, 0.55, 0.75, 1]; // a pixel of the screen
const FIRST = 2;
const LATE_MS = 30;
const TIRED = 2; // late frames close to each other
const REST = 0.05; // of a late frame, that one in time makes good

export class Pace {
	private step = FIRST;
	/** what was too much is not tried again in the same turn */
	private top = PIXELS.length - 1;
	private strain = 0;

	get pixels(): number {
		return PIXELS[this.step]!;
	}

	/** A new turn: what the machine was busy with may be done. */
	begin(): void {
		this.strain = 0;
		this.top = Math.min(this.step + 1, PIXELS.length - 1);
	}

	/** Tell how long after the frame before one has come. */
	frame(ms: number): void {
		this.strain += ms > LATE_MS ? 1 : -REST;
		if (Math.abs(this.strain) < TIRED) return;
		if (this.strain > 0) this.top = this.step = Math.max(this.step - 1, 0);
		else this.step = Math.min(this.step + 1, this.top);
		this.strain = 0;
	}
}
