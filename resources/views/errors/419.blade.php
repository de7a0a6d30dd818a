@include('errors.layout', ['title' => 'Session changed', 'text' => 'Your session changed; please go back and try again.'])
