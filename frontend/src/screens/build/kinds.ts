/** What the ways to meet and the cut edges are called. */
import type { FeatureOut } from '../../api/types';
import { word } from '../../words/words';

const MEETS: Record<string, string> = {
	corner: word('build.meet-corner'),
	tee: word('build.meet-tee'),
	crossing: word('build.meet-crossing'),
	through: word('build.meet-through'),
	stack: word('build.meet-stack'),
	splice: word('build.meet-splice')
};
export const meetName = (kind: string) => MEETS[kind] ?? word('build.meet-askew');

export const CUTS: Record<FeatureOut['kind'], string> = {
	slot: word('build.cut-slot'),
	notch: word('build.cut-notch'),
	lap: word('build.cut-lap'),
	hole: word('build.cut-hole'),
	socket: word('build.cut-socket'),
	finger: word('build.cut-finger'),
	tab: word('build.cut-tab'),
	piece: word('build.cut-piece')
};
