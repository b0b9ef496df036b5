import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { ROOT, ServerCalls } from './server-calls';
import type {
  MappingQuery,
  MappingView,
  NeededRatesQuery,
  NeededRatesView,
  ReferenceRatesView,
  TranslationProof,
  EliminationsQuery,
  EliminationsView,
  PairDocuments,
  PairDocumentsQuery,
  PairsView,
  ProposedRules,
  Readiness,
  TranslationQuery,
  StructureChange,
  StructureEffect,
  StructureView,
} from '@margin-lens/contract';

/** Groups: who holds whom, mapping, rates, translation, eliminations and what entities have with each other. */
@Injectable({ providedIn: 'root' })
export class GroupApi extends ServerCalls {
  structure(group: string, as_at: string): Observable<StructureView> {
    return this.get(`/groups/${group}/structure`, { as_at });
  }

  structureEffect(group: string, change: StructureChange): Observable<StructureEffect> {
    return this.post(`/groups/${group}/structure/effect`, change);
  }

  eliminations(group: string, query: EliminationsQuery): Observable<EliminationsView> {
    return this.get(`/groups/${group}/eliminations`, { ...query });
  }

  pairStatementUrl(group: string, query: PairDocumentsQuery, format: 'xlsx' | 'pdf' | 'csv'): string {
    return `${ROOT}/groups/${group}/pairs/statement?${new URLSearchParams({ ...query, format })}`;
  }

  readiness(group: string, query: EliminationsQuery): Observable<Readiness> {
    return this.get(`/groups/${group}/readiness`, { ...query });
  }

  proposedRules(group: string, query: EliminationsQuery): Observable<ProposedRules> {
    return this.get(`/groups/${group}/rules/proposed`, { ...query });
  }

  pairs(group: string, query: EliminationsQuery): Observable<PairsView> {
    return this.get(`/groups/${group}/pairs`, { ...query });
  }

  pairDocuments(group: string, query: PairDocumentsQuery): Observable<PairDocuments> {
    return this.get(`/groups/${group}/pairs/documents`, { ...query });
  }

  translation(query: TranslationQuery): Observable<TranslationProof> {
    return this.get('/translation', { ...query });
  }

  mapping(query: MappingQuery): Observable<MappingView> {
    return this.get('/mapping', { ...query });
  }

  neededRates(query: NeededRatesQuery): Observable<NeededRatesView> {
    return this.get('/rates/needed', { ...query });
  }

  referenceRates(query: { scope: string; from: string; to: string }): Observable<ReferenceRatesView> {
    return this.get('/rates/reference', query);
  }
}
