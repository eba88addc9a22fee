import { inject, Injectable } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { TitleStrategy, type RouterStateSnapshot } from '@angular/router';

/** Names the browser's tab after the page. */
@Injectable({ providedIn: 'root' })
export class PageTitles extends TitleStrategy {
  private readonly title = inject(Title);

  override updateTitle(state: RouterStateSnapshot): void {
    this.title.setTitle(`${this.buildTitle(state) ?? 'Coffer'} · Coffer`);
  }
}
