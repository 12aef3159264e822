/** What bodies, edges and marks are painted with: one material for all that look alike, so that a changed part needs none of its own. */
import { Color, LineBasicMaterial, MeshBasicMaterial, MeshLambertMaterial, type Material, type Side } from 'three';

const LIT = new Color('#ffffff');
const INK = 0.42; // of the stock's colour

export class Paints {
	private readonly kept = new Map<string, Material>();

	private once<M extends Material>(key: string, make: () => M): M {
		const found = (this.kept.get(key) as M | undefined) ?? make();
		this.kept.set(key, found);
		return found;
	}

	/** A sheet in its stock's colour; one that is lit shines a little. */
	body(colour: string, clear: boolean, lit: boolean): MeshLambertMaterial {
		return this.once(`body ${colour} ${clear} ${lit}`, () => {
			const made = new MeshLambertMaterial({ color: colour, transparent: clear, opacity: clear ? 0.45 : 1 });
			[made.polygonOffset, made.polygonOffsetFactor] = [true, 1];
			made.emissive = lit ? made.color.clone().lerp(LIT, 0.12) : new Color(0);
			made.emissiveIntensity = lit ? 0.34 : 0;
			return made;
		});
	}

	/** The colour that a body has when many are drawn as one. */
	static seen(body: MeshLambertMaterial): Color {
		return body.color.clone().lerp(LIT, body.emissiveIntensity / 2);
	}

	/** Lines on a sheet of a colour: its edges, and what is scored. */
	line(colour: string, side: Side): LineBasicMaterial {
		return this.once(`line ${colour} ${side}`, () => new LineBasicMaterial({ color: new Color(colour).multiplyScalar(INK), side }));
	}

	/** What is engraved into a sheet of a colour. */
	area(colour: string, side: Side): MeshBasicMaterial {
		const color = new Color(colour).multiplyScalar(INK);
		return this.once(`area ${colour} ${side}`, () => new MeshBasicMaterial({ color, side, transparent: true, opacity: 0.8 }));
	}

	dispose(): void {
		for (const material of this.kept.values()) material.dispose();
		this.kept.clear();
	}
}
