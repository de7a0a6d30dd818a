declare module 'odata-csdl' {
    const csdl: { xml2json: (xml: string | Buffer, options?: { strict?: boolean }) => object };
    export default csdl;
}
declare module 'odata-openapi' {
    export function csdl2openapi(csdl: object, options: object): object;
}
