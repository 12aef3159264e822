/** What tests let the program say. */
import type { Sentence, Span } from '../src/api/types';

export const span = (text: string, more: Partial<Span> = {}): Span => ({ text, mm: [], digits: 0, ref: null, of: 'length', ...more });
export const sentence = (...spans: Span[]): Sentence => ({ key: 'as_written', facts: {}, spans });
export const written = (text: string): Sentence => sentence(span(text));
