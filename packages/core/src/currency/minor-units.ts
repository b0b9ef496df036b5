/**
 * Currencies whose minor unit is not a hundredth.
 * @source ISO 4217:2015, list one (amendments to 2024), from memory; HUF, IDR, MGA and IQD as in the list, not as in
 * locale data, which rounds them to whole units
 */
const OTHER_DIGITS: Readonly<Record<string, number>> = {
  BIF: 0,
  CLP: 0,
  DJF: 0,
  GNF: 0,
  ISK: 0,
  JPY: 0,
  KMF: 0,
  KRW: 0,
  PYG: 0,
  RWF: 0,
  UGX: 0,
  UYI: 0,
  VND: 0,
  VUV: 0,
  XAF: 0,
  XOF: 0,
  XPF: 0,
  BHD: 3,
  IQD: 3,
  JOD: 3,
  KWD: 3,
  LYD: 3,
  OMR: 3,
  TND: 3,
  CLF: 4,
  UYW: 4,
};

const HUNDREDTHS =
  'AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BGN BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CNY COP CRC ' +
  'CUP CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR ILS INR IRR JMD ' +
  'KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO ' +
  'NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL ' +
  'THB TJS TMT TOP TRY TTD TWD TZS UAH USD UYU UZS VED VES WST XCD YER ZAR ZMW ZWG';

const digitsByCurrency = new Map<string, number>([
  ...HUNDREDTHS.split(' ').map((code) => [code, 2] as const),
  ...Object.entries(OTHER_DIGITS),
]);

/** Decimals of a currency by ISO 4217, or undefined when the code is not in the list. */
export const minorDigits = (currency: string): number | undefined => digitsByCurrency.get(currency);

/** Decimals of a currency; two for a code that is not in the list. */
export const digitsOf = (currency: string): number => minorDigits(currency) ?? 2;
