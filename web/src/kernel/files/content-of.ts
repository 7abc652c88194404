import { pathOf } from '../../platform/api/queries';

/** Where the content of a file is had. */
export const contentOf = (id: number) => `/api/v1${pathOf('file', id)}/content`;
