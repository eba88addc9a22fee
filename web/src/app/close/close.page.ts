import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({ selector: 'coffer-close', changeDetection: ChangeDetectionStrategy.OnPush, template: 'close' })
export class ClosePage {}
