@include('errors.layout', ['title' => 'Too many requests', 'text' => 'Please wait a minute and try again.'])
