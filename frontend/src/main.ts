import { mount } from 'svelte';
import './app.css';
import App from './app/App.svelte';

const target = document.getElementById('app');
if (!target) throw new Error('no #app');
mount(App, { target });
