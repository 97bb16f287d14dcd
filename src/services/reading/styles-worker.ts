import { type StyleTask, StyledReader } from '../../core/site/styled-page';

const reader = new StyledReader();

/** Answers one question about a page with style sheets, in this thread. */
export default (task: StyleTask) => reader.answer(task);
