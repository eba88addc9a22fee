import type { Count } from '../units/units.ts';

const zeroDecimals = 'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF';
const threeDecimals = 'BHD IQD JOD KWD LYD OMR TND';
const fourDecimals = 'CLF UYW';
const twoDecimals =
  'AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BGN BMD BND BOB BOV BRL BSD BTN BWP BYN BZD ' +
  'CAD CDF CHE CHF CHW CNY COP COU CRC CUP CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL ' +
  'GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR ILS INR IRR JMD KES KGS KHR KPW KYD KZT LAK LBP LKR ' +
  'LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MXV MYR MZN NAD NGN NIO NOK NPR NZD ' +
  'PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC ' +
  'SYP SZL THB TJS TMT TOP TRY TTD TWD TZS UAH USD USN UYU UZS VED VES WST XCD XCG YER ZAR ZMW ZWG';

const digitsByCode = new Map<string, number>([
  ...zeroDecimals.split(' ').map((code) => [code, 0] as const),
  ...twoDecimals.split(' ').map((code) => [code, 2] as const),
  ...threeDecimals.split(' ').map((code) => [code, 3] as const),
  ...fourDecimals.split(' ').map((code) => [code, 4] as const),
]);

/**
 * Decimal places of a currency's minor unit, or `undefined` for a code that is no currency in use.
 * Source: ISO 4217, list one (funds codes without a minor unit, metals and test codes left out).
 *
 * @example
 * currencyDigits('JPY') // 0
 */
export function currencyDigits(code: string): Count | undefined {
  return digitsByCode.get(code);
}

/** Every currency code in use, by letters. */
export const currencyCodes: readonly string[] = [...digitsByCode.keys()].sort();
