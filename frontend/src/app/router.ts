import { createRouter } from 'sv-router';
import Start from '../screens/start/Start.svelte';

export const { p, navigate, isActive, route } = createRouter({
	'/': Start,
	'/answers': () => import('../screens/answers/Answers.svelte'),
	'/projects/:id/:station': () => import('./ProjectPage.svelte'),
	'*': () => import('./NotFound.svelte')
});
