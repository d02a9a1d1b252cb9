document.body.textContent = 'hi'
