@include('errors.layout', ['title' => 'Too large', 'text' => 'This is larger than what is accepted here; nothing was changed.'])
