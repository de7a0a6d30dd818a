<?php

declare(strict_types=1);

use Illuminate\Support\Facades\Route;
use Reihe\Formats\PlanXml\PlanXmlReader;

Route::get('/schema/plan.xsd', static fn () => response()->file(PlanXmlReader::SCHEMA, ['Content-Type' => 'application/xml']));
Route::view('/{place?}', 'app')->where('place', '(?!api|odata|build|up|sanctum).*');
