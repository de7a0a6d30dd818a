@include('errors.layout', ['title' => 'Not found', 'text' => 'There is nothing at this address.'])
