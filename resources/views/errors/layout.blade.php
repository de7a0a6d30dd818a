<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Reihe · {{ $title }}</title>
<style>
body{margin:0;min-height:100vh;display:flex;align-items:center;justify-content:center}
body{background:#F7F6F2;color:#1E2A32;font:16px/1.5 system-ui,sans-serif}
main{max-width:460px;padding:32px}b{border-bottom:3px solid #D99A00;font-size:24px}a{color:#0F5C6E}
</style></head>
<body><main><b>Reihe</b><h1>{{ $title }}</h1><p>{{ $text }}</p><p><a href="/">To the start</a></p></main></body></html>
