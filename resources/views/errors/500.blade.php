@include('errors.layout', [
    'title' => 'Something went wrong',
    'text' => 'The server could not answer; what went wrong is in its log. Nothing was changed.',
])
