<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/**
 * Words that people write above columns, in small letters without punctuation: English, German, French; common practice without source.
 * A language is one more list. What an enterprise calls its columns is added in `config/headings.php`.
 */
final class Headings
{
    public const WORDS = [
        'en' => [
            'row' => ['#', 'no', 'nr', 'row', 'line', 'id', 'number'],
            'code' => ['code', 'activity code', 'activity id', 'task id', 'key'],
            'name' => ['name', 'activity', 'task', 'title', 'description', 'activity name', 'task name', 'work', 'step', 'what'],
            'outline' => ['outline', 'wbs', 'outline number', 'level', 'wbs code'],
            'duration' => ['duration', 'days', 'dur', 'length', 'duration days', 'working days', 'estimate', 'how long'],
            'start' => ['start', 'begin', 'from', 'start date', 'begins'],
            'finish' => ['finish', 'end', 'until', 'finish date', 'end date', 'due', 'to', 'ends'],
            'deadline' => ['deadline', 'due date', 'no later than'],
            'actualStart' => ['actual start', 'started', 'began', 'started on'],
            'actualFinish' => ['actual finish', 'actual end', 'finished', 'ended', 'done on', 'completed on'],
            'progress' => ['progress', 'complete', 'percent complete', 'done', 'percent', 'status percent', 'share done'],
            'remaining' => ['remaining', 'remaining duration', 'left', 'to go', 'remaining days'],
            'cost' => ['cost', 'costs', 'price'],
            'predecessors' => ['predecessors', 'predecessor', 'depends on', 'after', 'dependencies', 'dependency', 'pred', 'needs',
                'waits for'],
            'successors' => ['successors', 'successor', 'before', 'then', 'succ', 'gives to'],
            'remark' => ['remark', 'remarks', 'note', 'notes', 'comment', 'comments'],
        ],
        'de' => [
            'row' => ['nummer', 'zeile', 'lfd nr', 'pos', 'position'],
            'code' => ['kennung', 'schlüssel', 'vorgangsnummer', 'vorgangscode'],
            'name' => ['bezeichnung', 'vorgang', 'vorgangsname', 'aufgabe', 'tätigkeit', 'titel', 'beschreibung', 'arbeit', 'arbeitspaket'],
            'outline' => ['gliederung', 'gliederungsnummer', 'ebene', 'psp', 'psp code', 'projektstruktur'],
            'duration' => ['dauer', 'tage', 'arbeitstage', 'dauer tage', 'länge'],
            'start' => ['anfang', 'beginn', 'startdatum', 'anfangsdatum', 'von'],
            'finish' => ['ende', 'enddatum', 'bis', 'fertig', 'fertigstellung'],
            'deadline' => ['frist', 'stichtag', 'spätestens', 'endtermin'],
            'actualStart' => ['ist anfang', 'ist beginn', 'tatsächlicher anfang', 'begonnen', 'begonnen am'],
            'actualFinish' => ['ist ende', 'tatsächliches ende', 'beendet', 'beendet am', 'fertig am'],
            'progress' => ['fortschritt', 'erledigt', 'prozent', 'abgeschlossen', 'prozent abgeschlossen'],
            'remaining' => ['restdauer', 'verbleibend', 'rest'],
            'cost' => ['kosten', 'preis', 'betrag'],
            'predecessors' => ['vorgänger', 'abhängig von', 'nach', 'abhängigkeiten'],
            'successors' => ['nachfolger', 'vor'],
            'remark' => ['bemerkung', 'bemerkungen', 'notiz', 'notizen', 'anmerkung', 'kommentar'],
        ],
        'fr' => [
            'row' => ['n', 'no ligne', 'ligne', 'numéro', 'rang'],
            'code' => ['repère', 'identifiant', 'clé'],
            'name' => ['nom', 'désignation', 'libellé', 'tâche', 'activité', 'intitulé', 'travaux', 'nom de la tâche'],
            'outline' => ['niveau', 'structure', 'otp', 'numéro hiérarchique'],
            'duration' => ['durée', 'jours', 'durée jours', 'jours ouvrés'],
            'start' => ['début', 'date de début', 'du', 'commence'],
            'finish' => ['fin', 'date de fin', 'au', 'jusqu au'],
            'deadline' => ['échéance', 'date limite', 'au plus tard'],
            'actualStart' => ['début réel', 'commencé', 'commencé le'],
            'actualFinish' => ['fin réelle', 'terminé', 'terminé le', 'achevé le'],
            'progress' => ['avancement', 'achevé', 'réalisé', 'pourcentage', 'pourcentage achevé'],
            'remaining' => ['restant', 'durée restante', 'reste'],
            'cost' => ['coût', 'coûts', 'prix', 'montant'],
            'predecessors' => ['prédécesseurs', 'prédécesseur', 'dépend de', 'après', 'antécédents'],
            'successors' => ['successeurs', 'successeur', 'avant', 'puis'],
            'remark' => ['remarque', 'remarques', 'note', 'commentaire', 'commentaires', 'observation'],
        ],
    ];

    /** what a row is called that adds up others */
    private const TOTALS = '/^(?:(?:grand |sub|sub-|overall )?totals?|sum|in total|(?:gesamt|zwischen)?summe|gesamt|insgesamt|'
        .'(?:sous[- ])?total(?: général)?|totaux|somme)(?: (?:costs?|kosten|coûts?|days|tage|jours))?\s*:?$/iuD';

    /**
     * What a heading says its column holds; null where that cannot be told.
     *
     * @param  array<string, list<string>>  $more  {@see Meaning} => further words
     */
    public static function meaning(string $heading, array $more = []): ?Meaning
    {
        /** @var array<string, string> $known */
        static $known = [];
        $known === [] && $known = self::table(array_values(self::WORDS));
        $plain = self::plain($heading);
        $meaning = ($more === [] ? null : self::table([$more])[$plain] ?? null) ?? $known[$plain] ?? null;

        return $plain === '' || $meaning === null ? null : Meaning::tryFrom($meaning);
    }

    /**
     * @param  list<array<string, list<string>>>  $lists
     * @return array<string, string> word => meaning; the first that says it counts
     */
    private static function table(array $lists): array
    {
        $table = [];
        foreach ($lists as $list) {
            foreach ($list as $meaning => $words) {
                foreach ($words as $word) {
                    $table[self::plain($word)] ??= $meaning;
                }
            }
        }

        return $table;
    }

    public static function isTotal(string $name): bool
    {
        return preg_match(self::TOTALS, trim($name)) === 1;
    }

    private static function plain(string $text): string
    {
        return trim((string) preg_replace('/[^\p{L}\p{N}#]+/u', ' ', mb_strtolower($text)));
    }
}
