/** How a part stands off its place while it goes in: moved, and tilted about a line before that. */
import { Matrix4, Vector3 } from 'three';

type Three = [number, number, number];

export type Pull = { by: Three; tip?: { point: Three; axis: Three; degrees: number } };

/** The turn of a part about its line; none: as it is. */
export function tilted(pull: Pull | undefined): Matrix4 {
	if (!pull?.tip) return new Matrix4();
	const { point, axis, degrees } = pull.tip;
	const [to, turn] = [new Vector3(...point), new Matrix4().makeRotationAxis(new Vector3(...axis), (degrees * Math.PI) / 180)];
	return new Matrix4().makeTranslation(to).multiply(turn).multiply(new Matrix4().makeTranslation(to.clone().negate()));
}
