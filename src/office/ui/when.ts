import { format, isToday, isYesterday } from 'date-fns';
import { when as say } from '../words/ui';

/** "09:41" today, "Yesterday, 09:41", else "Thu 19 Nov, 16:20". */
export function when(iso: string): string {
  const at = new Date(iso);
  if (isToday(at)) return format(at, 'HH:mm');
  if (isYesterday(at)) return say.yesterday(format(at, 'HH:mm'));
  return format(at, 'EEE d MMM, HH:mm');
}
export const clock = (iso: string): string => format(new Date(iso), 'HH:mm');
export const day = (iso: string): string => format(new Date(iso), 'EEE d MMM');
