import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import type { Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router, withComponentInputBinding, type Routes } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import type { WorkspaceView } from '@margin-lens/contract';
import { provideControls } from '../shared/controls';
import { Controls, fieldOf } from './controls';
import { SAMPLE_WORKSPACE } from './sample-view';

const ROOT = '/api/v1';

/** A screen at its address over a server that answers what a test says; what is on it is asked for as people see it. */
export class ScreenBed {
  private constructor(
    private readonly harness: RouterTestingHarness,
    private readonly http: HttpTestingController,
  ) {}

  static async open(
    url: string,
    screen: Type<unknown>,
    options: { workspace?: WorkspaceView; data?: Record<string, unknown>; path?: string } = {},
  ): Promise<ScreenBed> {
    const path = options.path ?? url.split('?')[0]!.slice(1);
    const routes: Routes = [
      { path, component: screen, data: options.data ?? {} },
      { path: '**', component: screen },
    ];
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter(routes, withComponentInputBinding()),
        provideControls(),
      ],
    });
    const harness = await RouterTestingHarness.create(url);
    const bed = new ScreenBed(harness, TestBed.inject(HttpTestingController));
    bed.reply('/workspace', options.workspace ?? SAMPLE_WORKSPACE);
    await bed.settle();
    return bed;
  }

  /** Selects, checkboxes and radio buttons. */
  get controls(): Controls {
    return new Controls(this.harness.fixture);
  }

  /** The screen, which stands after its outlet; the harness would look through all elements for it, each time. */
  get page(): HTMLElement {
    return (this.harness.fixture.nativeElement as HTMLElement).lastElementChild as HTMLElement;
  }

  get address(): string {
    return TestBed.inject(Router).url;
  }

  async go(url: string): Promise<void> {
    await this.harness.navigateByUrl(url);
    await this.settle();
  }

  async settle(): Promise<void> {
    this.harness.detectChanges();
    await this.harness.fixture.whenStable();
  }

  /** Answers the requests to a path that wait; the last of them is returned. */
  reply(path: string, body: object, method = 'GET'): TestRequest {
    const waiting = this.http.match((request) => request.method === method && request.url === ROOT + path);
    const open = waiting.filter(({ cancelled }) => !cancelled);
    expect([path, open.length > 0]).toEqual([path, true]);
    for (const request of open) request.flush(body);
    return open.at(-1)!;
  }

  fail(path: string, status: number, body: object): void {
    for (const request of this.http.match(({ url }) => url === ROOT + path))
      if (!request.cancelled) request.flush(body, { status, statusText: 'x' });
  }

  /** What stands there, piece by piece with spaces between. */
  text(selector = 'section'): string {
    const root = this.page.matches(selector) ? this.page : this.page.querySelector(selector);
    if (!root) return '';
    const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT);
    const pieces: string[] = [];
    while (walker.nextNode()) pieces.push(walker.currentNode.textContent!.trim());
    return pieces.filter(Boolean).join(' ').replace(/\s+/g, ' ');
  }

  byId<T extends HTMLElement>(id: string): T {
    return this.page.querySelector<T>(`[data-testid="${id}"]`)!;
  }

  button(name: string): HTMLButtonElement {
    const found = [...this.page.querySelectorAll<HTMLButtonElement>('button')].find(
      (button) => (button.getAttribute('aria-label') ?? button.textContent).trim() === name,
    );
    if (!found) throw new Error(`There is no button “${name}”.`);
    return found;
  }

  async press(name: string): Promise<void> {
    this.button(name).click();
    await this.settle();
  }

  /** Types into a field, as its label says. */
  async type(label: string, text: string): Promise<void> {
    const field = this.field(label);
    field.value = text;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    field.dispatchEvent(new Event('change', { bubbles: true }));
    await this.settle();
  }

  /** Chooses in a field, both by the words that stand there. */
  async choose(label: string, option: string | RegExp): Promise<void> {
    await this.controls.choose(label, option);
    await this.settle();
  }

  field(label: string): HTMLInputElement {
    return fieldOf(this.page, label);
  }
}
