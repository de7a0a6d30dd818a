@include('errors.layout', ['title' => 'Not ready', 'text' => 'Reihe is not ready at this moment. Please try again in a few seconds.'])
