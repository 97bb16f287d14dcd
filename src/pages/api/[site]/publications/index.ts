import { endpoint } from '../../../_endpoint';

/** What publishing would write now, file by file. */
export const GET = endpoint('GET publications', ({ app, site }) =>
  app.services.diff.changedFiles(app.ctx, site),
);

/** Takes everything out of the live site, and answers with the proof. */
export const DELETE = endpoint('DELETE publications', ({ app, site, by }) =>
  app.services.publish.leave(app.ctx, site, by),
);
