import 'reflect-metadata';
console.log('bench');
