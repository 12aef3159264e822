/** The light on the mat: what the renderer is given, and the same light worked out for a face, for parts that are drawn already shaded. */
import { AmbientLight, Color, DirectionalLight, HemisphereLight, Vector3, type Light } from 'three';

const AMBIENT = 0.7;
const SKY = 0.9;
const GROUND = new Color('#8fb0a6');
const WHITE = new Color('#ffffff');
const SUN = 1.7;
const TO_SUN = new Vector3(-2, 5, 3);

export function lights(): Light[] {
	const sun = new DirectionalLight(WHITE, SUN);
	sun.position.copy(TO_SUN);
	return [new AmbientLight(WHITE, AMBIENT), new HemisphereLight(WHITE, GROUND, SKY), sun];
}

const toSun = TO_SUN.clone().normalize();

/** The colour of a dull face that looks along `normal` (of length 1): what the renderer would paint, written over `into`. */
export function shaded(colour: Color, normal: Vector3, into: Color): Color {
	const sky = 0.5 + 0.5 * normal.y; // the share of the sky that the face sees
	into.copy(GROUND).lerp(WHITE, sky).multiplyScalar(SKY);
	const rest = AMBIENT + SUN * Math.max(0, normal.dot(toSun));
	into.setRGB(into.r + rest, into.g + rest, into.b + rest);
	return into.multiply(colour).multiplyScalar(1 / Math.PI);
}
