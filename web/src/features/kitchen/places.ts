const languages = [
  'en-GB',
  'en-IE',
  'en-US',
  'en-CA',
  'en-AU',
  'en-NZ',
  'de-DE',
  'de-AT',
  'de-CH',
  'fr-FR',
  'nl-NL',
  'es-ES',
  'it-IT',
  'pt-PT',
  'da-DK',
  'sv-SE',
  'pl-PL',
]

/** Countries whose way of writing days and numbers can be chosen, and the one that is chosen now. */
export function localesOffered(chosen: string) {
  const country = new Intl.DisplayNames('en', { type: 'region' })
  const language = new Intl.DisplayNames('en', { type: 'language' })
  const nameOf = (locale: string) => {
    const { language: tongue, region } = new Intl.Locale(locale)
    return region ? `${country.of(region)} (${language.of(tongue)})` : (language.of(tongue) ?? locale)
  }
  return [...new Set([chosen, ...languages])]
    .map((value) => ({ value, label: nameOf(value) }))
    .sort((a, b) => a.label.localeCompare(b.label))
}

/** Every time zone that the browser knows, and the one that is chosen now. */
export function zonesOffered(chosen: string) {
  return [...new Set([chosen, 'UTC', ...Intl.supportedValuesOf('timeZone')])]
    .sort()
    .map((value) => ({ value, label: value.replaceAll('_', ' ') }))
}
