import { mount } from 'svelte';
import './app.css';
import { wordsOf } from './api/words';
import { speak } from './words/words';

const target = document.getElementById('app');
if (!target) throw new Error('no #app');
const language = document.documentElement.lang;
if (language !== 'en') speak(language, await wordsOf(language));
// only now: what is said in tables of a module is said when it is read
const { default: App } = await import('./app/App.svelte');
mount(App, { target });
