import { bootstrapApplication } from '@angular/platform-browser';
import { configuration } from './app/configuration';
import { Root } from './app/root';

bootstrapApplication(Root, configuration).catch((error: unknown) => {
  console.error(error);
});
