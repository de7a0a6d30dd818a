<?php

declare(strict_types=1);

use Illuminate\Support\Facades\Route;
use Illuminate\Support\Str;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\PlanXml\Reference;

// the reference of plan XML, at an address that stays
Route::get('/schema/plan-xml', static fn () => response()->view('plan-xml', ['page' => preg_replace_callback('/<h2>(.*?)<\/h2>/',
    static fn (array $m): string => '<h2 id="'.strtolower($m[1])."\">{$m[1]}</h2>",
    Str::markdown(str_replace('../formats/src/PlanXml/plan.xsd', '/schema/plan.xsd', Reference::markdown())))]));
Route::get('/schema/plan.xsd', static fn () => response()->file(PlanXmlReader::SCHEMA, ['Content-Type' => 'application/xml']));
Route::get('/{place?}', static fn (string $place = '') => response()->view('app', status: preg_match(
    '#^(?:|portfolio|board|proposals/[^/]+|exchange|library|sign-in)$#D', $place) === 1 ? 200 : 404))
    ->where('place', '(?!api|odata|feeds|build|up|sanctum).*');
