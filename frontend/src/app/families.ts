/** The families and the kinds of features, asked once. */
import { api, need } from '../api/client';
import type { DesignFamily, FeatureType } from '../api/types';

let families: Promise<DesignFamily[]> | null = null;
let features: Promise<FeatureType[]> | null = null;

export function allFamilies(): Promise<DesignFamily[]> {
	families ??= need(api.GET('/api/families')).catch((e: unknown) => {
		families = null; // the next one who asks tries again
		throw e;
	});
	return families;
}

export function allFeatures(): Promise<FeatureType[]> {
	features ??= need(api.GET('/api/feature-types')).catch((e: unknown) => {
		features = null;
		throw e;
	});
	return features;
}
