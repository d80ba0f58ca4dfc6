/** Money was any few letters; it is an ISO 4217 code. What names no currency for sure becomes XXX, the code for none. */
export const currencyByCode = {
  name: '0016-currency-by-code',
  up: [
    `UPDATE shop SET rules = json_set(rules, '$.prices.currency',
       CASE trim(json_extract(rules, '$.prices.currency'))
         WHEN '£' THEN 'GBP' WHEN '$' THEN 'USD' WHEN 'US$' THEN 'USD' WHEN 'A$' THEN 'AUD'
         WHEN 'NZ$' THEN 'NZD' WHEN 'C$' THEN 'CAD' WHEN 'CA$' THEN 'CAD' WHEN '€' THEN 'EUR'
         WHEN '¥' THEN 'JPY' WHEN '₹' THEN 'INR' WHEN 'zł' THEN 'PLN' WHEN 'Kč' THEN 'CZK'
         ELSE CASE WHEN trim(json_extract(rules, '$.prices.currency')) GLOB '[A-Z][A-Z][A-Z]'
           THEN trim(json_extract(rules, '$.prices.currency')) ELSE 'XXX' END
       END)
     WHERE json_extract(rules, '$.prices.currency') IS NOT NULL`,
  ],
};
