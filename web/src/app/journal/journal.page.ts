import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({
  selector: 'coffer-journal',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: 'journal',
})
export class JournalPage {}
