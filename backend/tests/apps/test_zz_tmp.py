import sys
sys.path.insert(0,'/tmp')
def test_x(api, drawer):
    import fz
    fz.run(int(__import__('os').environ.get('PER','8')))
