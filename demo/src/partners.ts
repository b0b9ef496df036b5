/** Whom the entities deal with beside each other. All of them are invented. */
export interface DemoPartner {
  code: string;
  name: string;
  kind: 'customer' | 'supplier';
  group: string;
  /** Days after which an invoice is due, and by how many it is usually paid late. */
  terms: number;
  late: number;
}

const customer = (code: string, name: string, terms: number, group = '', late = 0): DemoPartner => ({
  ...{ code, name, kind: 'customer', group, terms, late },
});
const supplier = (code: string, name: string, terms: number): DemoPartner => ({
  ...{ code, name, kind: 'supplier', group: '', terms, late: 0 },
});

export const CUSTOMERS: readonly DemoPartner[] = [
  customer('C101', 'Casa Verano', 30, 'Verano'),
  customer('C102', 'Nordhaus', 45, '', 15),
  customer('C103', 'Atelier Blum', 30),
  customer('C104', 'Hotel Miramar', 60, 'Verano', 75),
  customer('C105', 'Stonebridge', 30),
  customer('C106', 'Kuroda Trading', 60, '', 35),
  customer('C107', 'Pinewood Homes', 30),
  customer('C108', 'Baltic Tile', 45),
  customer('C109', 'Marché Neuf', 30, '', 110),
  customer('C110', 'Oakfield', 30),
];

export const SUPPLIERS: readonly DemoPartner[] = [
  supplier('S201', 'Terrabianca Clays', 30),
  supplier('S202', 'Glazura Pigments', 45),
  supplier('S203', 'Westlode Quarry', 30),
  supplier('S204', 'Emberline Gas', 14),
  supplier('S205', 'Rivergrid Power', 14),
  supplier('S206', 'Clearbrook Water', 30),
  supplier('S207', 'Harrow Freight', 30),
  supplier('S208', 'Inkwell Office Supply', 30),
  supplier('S209', 'Forge and Flue Works', 60),
];

/** Who delivers energy, water and kilns, by the account; freight and office supply share the rest. */
const BY_ACCOUNT: Record<string, string> = { '6400': 'S204', '6410': 'S205', '6430': 'S206', '1120': 'S209' };

const ofSupplier = (code: string): DemoPartner => SUPPLIERS.find((each) => each.code === code)!;

export const supplierOf = (account: string): DemoPartner =>
  ofSupplier(BY_ACCOUNT[account] ?? (Number(account) % 20 === 0 ? 'S207' : 'S208'));

/** The suppliers of clay, glaze and stone take turns. */
export const materialSupplier = (delivery: number): DemoPartner => SUPPLIERS[delivery % 3]!;
