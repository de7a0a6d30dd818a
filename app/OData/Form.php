<?php

declare(strict_types=1);

namespace App\OData;

use Illuminate\Http\Request;

/** How the client wants its answer (Protocol 4.01, section 8.2; JSON Format 4.01, section 3). */
final readonly class Form
{
    /**
     * @param  string  $version  of the protocol: 4.0 or 4.01
     * @param  string  $metadata  none, minimal or full
     * @param  bool  $exact  long numbers as strings
     * @param  int|null  $size  rows per page
     * @param  bool  $tracks  changes are to be asked for later
     */
    private function __construct(public string $version, public string $metadata, public bool $exact, public ?int $size,
        public bool $tracks)
    {
    }

    public static function of(Request $request, ?string $format): self
    {
        $most = trim($request->header('OData-MaxVersion') ?? '4.01');
        if (preg_match('/^\d+(\.\d+)?$/D', $most) !== 1 || (float) $most < 4) {
            throw new ODataError(400, "OData-MaxVersion {$most}: this service speaks 4.0 and 4.01.", 'OData-MaxVersion');
        }
        $type = self::type($format ?? $request->header('Accept') ?? '*/*', $format !== null);
        preg_match('/odata\.metadata=(none|minimal|full)|;\s*metadata=(none|minimal|full)/i', $type, $level);
        $prefer = strtolower(implode(',', $request->headers->all('prefer')));
        preg_match('/(?:^|[,;\s])(?:odata\.)?maxpagesize\s*=\s*"?(\d{1,9})/', $prefer, $size);

        return new self((float) $most < 4.01 ? '4.0' : '4.01',
            strtolower(($level[2] ?? '') !== '' ? $level[2] : ($level[1] ?? 'minimal')),
            preg_match('/ieee754compatible=true/i', $type) === 1,
            isset($size[1]) ? max(1, min((int) $size[1], Query::LARGEST)) : null,
            preg_match('/(?:^|[,;\s])(?:odata\.)?track-changes\b/', $prefer) === 1);
    }

    /**
     * @param  bool  $isTracked  changes can be asked for later
     * @return array<string, string> headers of every answer
     */
    public function headers(bool $isTracked = false): array
    {
        $prefix = $this->version === '4.0' ? 'odata.' : '';
        $applied = implode(', ', [...($isTracked ? ["{$prefix}track-changes"] : []),
            ...($this->size === null ? [] : ["{$prefix}maxpagesize={$this->size}"])]);

        return ($applied === '' ? [] : ['Preference-Applied' => $applied]) + ['OData-Version' => $this->version,
            'Content-Type' => "application/json;odata.metadata={$this->metadata}"
            .($this->exact ? ';IEEE754Compatible=true' : '').';charset=utf-8', 'Vary' => 'Accept, Prefer, OData-MaxVersion, Authorization'];
    }

    /** The first type that is JSON or anything. */
    private static function type(string $accepted, bool $isOption): string
    {
        foreach (explode(',', $accepted) as $one) {
            $name = strtolower(trim(explode(';', $one)[0]));
            if (in_array($name, $isOption ? ['json', 'application/json'] : ['application/json', 'application/*', '*/*'], true)) {
                return $one;
            }
        }
        throw new ODataError(406, 'The feed answers in JSON only.', $isOption ? '$format' : 'Accept');
    }
}
