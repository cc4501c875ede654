export default async function globalSetup() {}
