import { endpoint } from '../../_endpoint';

/** Takes in a file of a download, or a film (`?as=film`), as its bytes come; it belongs to nothing until a product names it. */
export const POST = endpoint(async ({ app, request, url }) => {
  const { files, errors } = app.services;
  if (!request.body) throw errors.invalid('The request holds no file.');
  const take = url.searchParams.get('as') === 'film' ? files.takeFilm : files.takeFile;
  return take(
    app.ctx,
    request.body as unknown as AsyncIterable<Uint8Array>,
    url.searchParams.get('name') ?? 'file',
  );
});
