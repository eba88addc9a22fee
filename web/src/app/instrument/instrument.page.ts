import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({
  selector: 'coffer-instrument',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: 'instrument',
})
export class InstrumentPage {}
