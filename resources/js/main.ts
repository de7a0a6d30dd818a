document.body.append('soon');
