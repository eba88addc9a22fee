import {
  ChangeDetectionStrategy,
  Component,
  computed,
  HostListener,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { roleWords } from '@coffer/contract';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { SessionService } from '../session/session.service';
import { AppearanceService, type Appearance } from './appearance.service';
import { FindBox } from './find-box';
import { KeysDialog } from './keys.dialog';
import { PeriodRail } from './period-rail';
import { pages } from './pages';

/** The frame of every page: header, period rail, places, and the page itself. */
@Component({
  selector: 'coffer-shell',
  imports: [FindBox, MatButtonModule, MatMenuModule, PeriodRail, RouterLink, RouterLinkActive, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shell.html',
  styleUrl: './shell.scss',
})
export class Shell {
  private readonly router = inject(Router);
  private readonly dialog = inject(MatDialog);
  private readonly companies = inject(CompanyService);
  protected readonly session = inject(SessionService);
  private readonly asOf = inject(AsOfService);
  protected readonly appearance = inject(AppearanceService);
  protected readonly company = this.companies.company;
  protected readonly person = this.session.person;
  protected readonly membership = this.session.company;
  protected readonly others = computed(() =>
    this.session.companies().filter(({ id }) => id !== this.membership()?.id),
  );
  protected readonly role = computed(() => roleWords(this.membership()?.role ?? []));
  protected readonly pages = pages;
  protected readonly appearances: readonly Appearance[] = ['system', 'light', 'dark'];
  protected readonly failed = signal('');
  private readonly find = viewChild(FindBox);
  /** `g` was pressed and a page's letter is waited for. */
  private going = false;

  constructor() {
    this.companies.load().subscribe({
      error: (error: unknown) => this.failed.set(error instanceof Error ? error.message : String(error)),
    });
  }

  protected initials(): string {
    const name = this.person()?.name ?? '';
    return name
      .split(' ')
      .map((part) => part.charAt(0))
      .join('');
  }

  protected logOut(): void {
    this.session.logOut().subscribe({
      next: () => {
        this.asOf.followOpenPeriod();
        void this.router.navigateByUrl('/log-in');
      },
    });
  }

  protected showKeys(): void {
    this.dialog.open(KeysDialog, { autoFocus: 'dialog' });
  }

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || this.isTyping(event)) return;
    if (this.dialog.openDialogs.length > 0) return;
    const page = this.going ? pages.find(({ key }) => key === event.key) : undefined;
    this.going = event.key === 'g';
    if (page) void this.router.navigateByUrl(page.path);
    else if (event.key === '/') this.find()?.focus();
    else if (event.key === '?') this.showKeys();
    else return;
    event.preventDefault();
  }

  private isTyping({ target }: KeyboardEvent): boolean {
    return target instanceof HTMLElement && target.matches('input, textarea, select, [contenteditable]');
  }
}
