import type { Language } from '../language';
import { letters } from './letters';
import { papers } from './papers';
import { steps, widgets } from './shop';

export const en: Language = { widgets, steps, letters, papers };
