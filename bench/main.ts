console.log('');
