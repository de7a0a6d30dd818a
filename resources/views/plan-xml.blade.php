<!DOCTYPE html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>Plan XML – Reihe</title>
    <style>
        body { max-width: 62rem; margin: 2rem auto; padding: 0 1rem; font: 16px/1.5 "Source Sans 3 Variable", system-ui, sans-serif;
            color: #1E2A32; background: #F7F6F2; }
        table { border-collapse: collapse; width: 100%; }
        th, td { text-align: left; vertical-align: top; padding: 3px 10px 3px 0; border-bottom: 1px solid #D8D6CE; }
        code { font-size: 0.9em; }
        a { color: #0F5A6B; }
    </style>
</head>
<body>{!! $page !!}</body>
</html>
