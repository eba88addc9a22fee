import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({
  selector: 'coffer-new-instrument',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: 'new-instrument',
})
export class NewInstrumentPage {}
