import { bytesOf } from '../../_upload';
import { endpoint } from '../../_endpoint';

/** Takes in a file of a download, or a film (`?as=film`), as its bytes come; it belongs to nothing until a product names it. */
export const POST = endpoint('POST files', async ({ app, request, query }) => {
  const { files, errors } = app.services;
  if (!request.body) throw errors.invalid('The request holds no file.');
  const take = query.as === 'film' ? files.takeFilm : files.takeFile;
  return take(app.ctx, bytesOf(request), query.name ?? 'file');
});
