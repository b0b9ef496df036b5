import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { CompletionEffectView } from '@margin-lens/contract';
import { exactFigure, inWords } from '@margin-lens/core/shown';
import type { HoldsUnsaved } from '../setup-screen/unsaved-guard';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { EditedScreen } from '../shared/edited-screen';
import { InWordsPipe } from '../shared/in-words-pipe';
import { movedAt, nextId, replacedAt, withoutAt } from '../shared/listed';
import { percentOf } from '../shared/percent-of';
import { CompletionsStore } from './completions-store';
import { RuleEditor, type Rule } from './rule-editor';

type Entity = CompletionEffectView['entities'][number];

/** Which values postings that lack one are read with, by rules, and what that does before it counts. */
@Component({
  selector: 'ml-completions-screen',
  imports: [
    EditedScreen,
    InWordsPipe,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    RuleEditor,
  ],
  providers: [CompletionsStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './completions-screen.html',
  styleUrls: ['../shared/listing.scss', './completions-screen.scss'],
})
export class CompletionsScreen implements HoldsUnsaved {
  /** Of the address: the completion that is open, or `new`. */
  readonly id = input<string>();

  protected readonly store = inject(CompletionsStore);
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  protected readonly draft = this.store.draft;
  protected readonly partners = computed(() => this.store.makings().view?.partners ?? []);
  protected readonly says = computed(() =>
    this.store.list().length === 0
      ? 'Values that postings lack, by rule: postings stay as they are'
      : 'Postings that lack a value are read with one, by rule; they stay as they are, and each rule can be taken back',
  );
  /** What the form is called by: changes as soon as it differs from what counts. */
  protected readonly countsWords = computed(() =>
    this.store.isChanged() ? 'before it counts: save it and it does' : 'counts in all figures',
  );

  private readonly question = computed(() => {
    const [context, draft] = [this.contexts.context(), this.draft()];
    if (!context || !draft) return undefined;
    // a new one is asked for under an id that documents can have
    const name = draft.name.trim() || 'Missing values';
    const document = { ...draft, name, rules: draft.rules.filter(namesAny) };
    return {
      document,
      revision: this.store.revision(),
      query: { scope: context.scope.code, as_at: asAtText(context.asAt) },
    };
  });
  private readonly asking = asked(this.question, ({ document, query }) => this.api.tryCompletion(document, query));
  protected readonly effect = this.asking.state;

  protected readonly entities = computed(() => {
    const { view } = this.effect();
    return (view?.entities ?? [])
      .filter(({ before }) => before.some((part) => part !== null))
      .map((entity) => ({
        ...{ code: entity.code, name: entity.name, currency: entity.currency },
        before: entity.before.map(percent),
        after: entity.after.map((part, at) => ({ text: percent(part), isMore: part !== entity.before[at] })),
        missing: entity.missing.map(({ number, name, amount }) => ({ number, name, text: money(amount, entity) })),
        others: this.othersOf(entity),
      }));
  });
  protected readonly span = computed(() => {
    const { view } = this.effect();
    const [first, last] = [view?.months[0], view?.months.at(-1)];
    return view && first && last ? `${view.scope.name} · ${first.name} – ${last.name}` : '';
  });

  unsaved(): number {
    return this.store.unsaved();
  }

  /** What a rule takes, of the entities that are looked at. */
  protected takes(at: number): string {
    const { view } = this.effect();
    const { rules: all } = this.draft()!;
    if (!namesAny(all[at]!)) return 'say which';
    const place = all.slice(0, at).filter(namesAny).length;
    const taken = (view?.entities ?? []).filter(({ rules }) => (rules[place] ?? 0) !== 0);
    if (!view) return '';
    if (taken.length === 0) return 'takes nothing';
    if (taken.length > 1) return `in ${taken.length} entities`;
    return `${money(taken[0]!.rules[place]!, taken[0]!)} ${taken[0]!.currency}`;
  }

  protected addRule(account?: string): void {
    const { rules } = this.draft()!;
    const value = rules.at(-1)?.value ?? this.store.values()[0]?.value ?? '';
    const accounts =
      account === undefined ? {} : { accounts: { include: [{ by: 'account' as const, number: account }] } };
    this.store.change({ rules: [...rules, { id: nextId('rule', rules), value, ...accounts }] });
  }

  protected putRule(at: number, rule: Rule): void {
    this.store.change({ rules: replacedAt(this.draft()!.rules, at, rule) });
  }

  protected moveRule(at: number, by: -1 | 1): void {
    this.store.change({ rules: movedAt(this.draft()!.rules, at, by) });
  }

  protected removeRule(at: number): void {
    this.store.change({ rules: withoutAt(this.draft()!.rules, at) });
  }

  protected retry(): void {
    this.asking.again();
  }

  private othersOf({ missing, missingWhole, ...entity }: Entity): string {
    const others = missing.reduce((left, { amount }) => left - amount, missingWhole);
    return others === 0 ? '' : money(others, entity);
  }

  protected readonly inWords = inWords;
}

/** Whether a rule says which postings are meant; one that does not is not tried yet. */
const namesAny = ({ accounts, partners, text }: Rule): boolean =>
  (accounts?.include.length ?? 0) > 0 || (partners?.length ?? 0) > 0 || text !== undefined;

const percent = (part: number | null): string => (part === null ? '–' : percentOf(part));

const money = (amount: number, { currency: code, digits }: Pick<Entity, 'currency' | 'digits'>): string =>
  exactFigure({ amount, unit: { kind: 'currency', code, digits } });
