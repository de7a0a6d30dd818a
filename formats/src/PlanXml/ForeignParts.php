<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Plan\Foreign;
use Reihe\Core\Plan\ForeignFormat;
use Reihe\Core\Plan\InvalidField;
use XMLReader;

/** Foreign content of the objects that are open: of other namespaces, and of other formats in `foreign`. */
final class ForeignParts
{
    /**
     * @var list<array{attributes: list<array{string, string, string, string}>, elements: list<string>,
     *     uids: array<string, string>, contents: array<string, string>}>
     */
    private array $open = [];

    /** depth of the element of another namespace that is being passed */
    private ?int $within = null;

    public function __construct(private readonly Uids $uids)
    {
    }

    /** @param  list<array{string, string, string, string}>  $attributes  prefix, name, namespace, value */
    public function begin(array $attributes): void
    {
        $this->open[] = ['attributes' => $attributes, 'elements' => [], 'uids' => [], 'contents' => []];
    }

    /**
     * Takes elements of other namespaces, with all that is in them.
     *
     * @param  int  $ordinal  of the element that was read last; goes on with those that are taken
     * @return bool whether the reader stands on something that is taken
     */
    public function takes(XMLReader $reader, int &$ordinal): bool
    {
        $isElement = $reader->nodeType === XMLReader::ELEMENT;
        if ($this->within !== null && $reader->depth > $this->within) {
            $ordinal += $isElement ? 1 : 0;

            return true;
        }
        $isInside = $this->within !== null;
        $this->within = null;
        if (! $isElement) {
            return $isInside && $reader->nodeType === XMLReader::END_ELEMENT && ForeignXml::isForeign($reader->namespaceURI);
        }
        if (! ForeignXml::isForeign($reader->namespaceURI)) {
            return false;
        }
        $ordinal++;
        $this->within = $reader->depth;
        if ($this->open !== []) {
            $this->open[count($this->open) - 1]['elements'][] = $reader->readOuterXml();
        }

        return true;
    }

    /** @param  array<string, string>  $a  attributes */
    public function told(array $a): void
    {
        $of = array_pop($this->open) ?? throw new InvalidField('foreign', 'stands in nothing');
        if (isset($of['uids'][$a['format']])) {
            throw new InvalidField('format', 'is given twice');
        }
        $of['uids'][$a['format']] = $a['uid'] ?? '';
        if ($a['format'] !== ForeignFormat::Xml->value) {
            $of['contents'][$a['format']] = $a['content'] ?? '';
        }
        $this->open[] = $of;
    }

    /** @return list<Foreign> */
    public function end(int $ordinal, string $project, ?string $wbs, ?string $activity): array
    {
        $of = array_pop($this->open) ?? throw new \LogicException('nothing is open');
        $kept = ForeignXml::kept($of['attributes'], $of['elements']);
        $contents = $of['contents'] + ($kept === null ? [] : [ForeignFormat::Xml->value => $kept]);
        $made = [];
        foreach ($contents as $format => $content) {
            if (mb_strlen($content) > Foreign::LONGEST) {
                throw new InvalidField('content', 'of another namespace or format is longer than '.Foreign::LONGEST.' characters');
            }
            $given = $of['uids'][$format] ?? '';
            $uid = $this->uids->of($ordinal, $given === '' ? [] : ['uid' => $given],
                "foreign:{$format}:".($activity ?? $wbs ?? $project));
            $made[] = new Foreign($uid, $project, $wbs, $activity, ForeignFormat::from($format), $content);
        }

        return $made;
    }
}
